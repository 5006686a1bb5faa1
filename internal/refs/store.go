package refs

import (
	"encoding/binary"
	"errors"
	"sync"
	"time"

	"dicaxon/internal/memory"
	"dicaxon/internal/refs/lang"
)

// A Stamp tells states of a file apart without reading it, as git's index does.
type Stamp struct {
	Size             int64
	Changed, Altered int64  // times of the text and of the file itself, in nanoseconds
	Inode            uint64 // 0 where the system has none
}

// A Store remembers what files said from one run to the next, in a file of the
// user's cache folder, one for each repository. It may be deleted at any time; of
// several programs that write it the last wins. It may be used by several goroutines.
type Store struct {
	path  string
	mu    sync.Mutex
	old   map[string]kept // from the file
	fresh map[string]kept
	hits  int
}

// A kept is what a file said, packed, with its Stamp at that time.
type kept struct {
	stamp  Stamp
	packed []byte
}

// OpenStore reads a Store; what cannot be read, or what other readers wrote, counts
// as empty.
func OpenStore(path string) *Store {
	s := &Store{path: path, old: map[string]kept{}, fresh: map[string]kept{}}
	data, err := memory.Read(path)
	if err != nil {
		return s
	}
	u := unpacker{data: data}
	for n := u.number(); n > 0 && !u.failed; n-- {
		at := u.text()
		k := kept{stamp: Stamp{Size: u.number(), Changed: u.number(), Altered: u.number(), Inode: uint64(u.number())}, packed: u.bytes()}
		s.old[at] = k
	}
	if u.failed {
		s.old = map[string]kept{}
	}
	return s
}

// Get gives what the file at a path said when it had this Stamp.
func (s *Store) Get(at string, stamp Stamp) (*File, bool) {
	s.mu.Lock()
	k, ok := s.old[at]
	s.mu.Unlock()
	if !ok || k.stamp != stamp {
		return nil, false
	}
	f, err := unpack(k.packed)
	if err != nil {
		return nil, false
	}
	s.mu.Lock()
	s.hits++
	s.mu.Unlock()
	return f, true
}

// Put notes what the file at a path says, unless it changed a moment ago.
func (s *Store) Put(at string, stamp Stamp, f *File, now time.Time) {
	if now.Sub(time.Unix(0, max(stamp.Changed, stamp.Altered))) < memory.Settled {
		return
	}
	packed := pack(f)
	s.mu.Lock()
	defer s.mu.Unlock()
	s.fresh[at] = kept{stamp, packed}
}

// Save writes the Store where something new is to be remembered.
func (s *Store) Save() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.fresh) == 0 {
		return nil
	}
	// What nobody asked for in a run that asked for much is likely gone.
	if len(s.old) < 4*(s.hits+len(s.fresh)) {
		for at, k := range s.old {
			if _, again := s.fresh[at]; !again {
				s.fresh[at] = k
			}
		}
	}
	data := binary.AppendUvarint(nil, uint64(len(s.fresh)))
	for at, k := range s.fresh {
		data = appendText(data, at)
		for _, n := range []int64{k.stamp.Size, k.stamp.Changed, k.stamp.Altered, int64(k.stamp.Inode)} {
			data = binary.AppendUvarint(data, uint64(n))
		}
		data = appendText(data, string(k.packed))
	}
	return memory.Write(s.path, data)
}

func appendText(data []byte, text string) []byte {
	return append(binary.AppendUvarint(data, uint64(len(text))), text...)
}

// pack writes what a file says as numbers and texts, each text after its length.
func pack(f *File) []byte {
	var data []byte
	number := func(n int) { data = binary.AppendUvarint(data, uint64(n)) }
	data = appendText(data, f.Broken)
	number(f.BrokenLine)
	number(bits(f.Mark, f.Returns, f.Open))
	data = appendText(data, string(f.Words))
	number(len(f.Credentials))
	for _, c := range f.Credentials {
		data = appendText(data, c.What)
		number(c.Line)
	}
	span := func(spans ...Span) {
		for _, s := range spans {
			number(int(s.Start))
			number(int(s.End))
		}
	}
	for _, all := range [][]lang.Quoted{f.Quotes, f.Uses.Unbound} {
		number(len(all))
		for _, q := range all {
			data = appendText(data, q.Name)
			span(q.Span)
		}
	}
	number(len(f.Uses.Members))
	for _, m := range f.Uses.Members {
		data = appendText(data, m.Name)
		span(m.Span, m.Of)
	}
	data = appendText(appendText(data, string(f.Uses.Gives)), string(f.Uses.Holds))
	number(len(f.Uses.Idle))
	span(f.Uses.Idle...)
	number(len(f.Refs))
	for i := range f.Refs {
		r := &f.Refs[i]
		number(int(r.Kind))
		data = appendText(appendText(data, r.Name), r.Value)
		for _, n := range []int{int(r.Span.Start), int(r.Span.End), int(r.ValueSpan.Start), int(r.ValueSpan.End), int(r.Quote), r.Line, r.Column, r.Relative, bits(r.Guarded) + 2*bits(r.Listed)} {
			number(n)
		}
	}
	return data
}

func bits(flags ...bool) int {
	n := 0
	for i, set := range flags {
		if set {
			n |= 1 << i
		}
	}
	return n
}

var errPacked = errors.New("what was remembered cannot be read")

// unpack reads what pack wrote.
func unpack(data []byte) (*File, error) {
	u := unpacker{data: data}
	f := &File{Broken: u.text(), BrokenLine: int(u.number())}
	flags := u.number()
	f.Mark, f.Returns, f.Open = flags&1 != 0, flags&2 != 0, flags&4 != 0
	f.Words = u.bytes()
	for n := u.number(); n > 0 && !u.failed; n-- {
		f.Credentials = append(f.Credentials, lang.Credential{What: u.text(), Line: int(u.number())})
	}
	for _, all := range []*[]lang.Quoted{&f.Quotes, &f.Uses.Unbound} {
		for n := u.number(); n > 0 && !u.failed; n-- {
			*all = append(*all, lang.Quoted{Name: u.text(), Span: u.span()})
		}
	}
	for n := u.number(); n > 0 && !u.failed; n-- {
		f.Uses.Members = append(f.Uses.Members, lang.Member{Name: u.text(), Span: u.span(), Of: u.span()})
	}
	f.Uses.Gives, f.Uses.Holds = u.bytes(), u.bytes()
	for n := u.number(); n > 0 && !u.failed; n-- {
		f.Uses.Idle = append(f.Uses.Idle, u.span())
	}
	n := u.number()
	if n < 0 || n > int64(len(data)) {
		return nil, errPacked
	}
	f.Refs = make([]Ref, n)
	for i := range f.Refs {
		r := &f.Refs[i]
		r.Kind, r.Name, r.Value = Kind(u.number()), u.text(), u.text()
		r.Span, r.ValueSpan = u.span(), u.span()
		r.Quote, r.Line, r.Column, r.Relative = byte(u.number()), int(u.number()), int(u.number()), int(u.number())
		said := u.number()
		r.Guarded, r.Listed = said&1 != 0, said&2 != 0
	}
	if u.failed || len(u.data) > 0 {
		return nil, errPacked
	}
	return f, nil
}

// An unpacker takes numbers and texts off data; failed is set where there are none.
type unpacker struct {
	data   []byte
	failed bool
}

func (u *unpacker) number() int64 {
	n, size := binary.Uvarint(u.data)
	if size <= 0 {
		u.failed, u.data = true, nil
		return 0
	}
	u.data = u.data[size:]
	return int64(n)
}

func (u *unpacker) bytes() []byte {
	n := u.number()
	if n < 0 || n > int64(len(u.data)) {
		u.failed, u.data = true, nil
		return nil
	}
	taken := u.data[:n]
	u.data = u.data[n:]
	return taken
}

func (u *unpacker) span() Span { return Span{Start: int32(u.number()), End: int32(u.number())} }

func (u *unpacker) text() string { return string(u.bytes()) }
