package names

import (
	"strings"
	"unicode/utf8"

	"dicaxon/internal/lazy"
)

// IsGitFolder says whether some file system or git itself takes a name for ".git": by
// case, by the short name that Windows gives it, by a stream of NTFS, by dots and spaces
// that Windows drops at the end, or by characters that HFS+ passes over. What is written
// there runs with the next call of git. The characters are those that git passes over,
// next_hfs_char in its utf8.c.
func IsGitFolder(name string) bool {
	if name == "" || name[0] < utf8.RuneSelf && !strings.Contains(".gG", name[:1]) {
		return false // nothing that is passed over stands before it
	}
	var b strings.Builder
	for _, r := range name {
		switch {
		case 0x200c <= r && r <= 0x200f, 0x202a <= r && r <= 0x202e, 0x206a <= r && r <= 0x206f, r == 0xfeff, r == 0x200b:
		default:
			b.WriteRune(r)
		}
	}
	plain, _, _ := strings.Cut(strings.ToLower(b.String()), ":")
	plain = strings.TrimRight(plain, ". ")
	return plain == ".git" || shortGit.MatchString(plain)
}

var shortGit = lazy.New(`^git~\d+$`)
