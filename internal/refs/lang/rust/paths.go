package rust

import (
	"path"
	"strings"
)

// Module gives the path of a module by the file that holds it, which may be the one of a folder.
func Module(file string) string { return strings.TrimSuffix(strings.TrimSuffix(file, ".rs"), "/mod") }

// relative says whether a path begins at the module that it stands in, or at the one above.
func relative(name string) bool {
	return strings.HasPrefix(name, "super::") || strings.HasPrefix(name, "self::")
}

// plain gives a path without the steps to the module that it begins at.
func plain(name string) string {
	name = strings.TrimPrefix(name, "self::")
	for strings.HasPrefix(name, "super::") {
		name = strings.TrimPrefix(name, "super::")
	}
	return name
}

// Gives says whether a path of modules leads to a file, so that what is taken behind it is
// something which that file gives.
func Gives(file, name string, behind bool) bool {
	parts := strings.Split(plain(name), "::")
	if !behind {
		parts = parts[:len(parts)-1]
	}
	if len(parts) < 2 && !behind && !relative(name) {
		return path.Base(file) == "lib.rs" || len(parts) == 1 && path.Base(Module(file)) == parts[0]
	}
	module, end := "/"+Module(file), "/"+strings.Join(parts, "/")
	if strings.HasSuffix(module, end) && len(parts) > 0 {
		return true
	}
	_, end, named := strings.Cut(end[1:], "/") // without the name of the crate
	return named && !relative(name) && strings.HasSuffix(module, "/"+end)
}

// FromCrate writes a path that begins at the module of its file, or at one above, from the root of the
// crate, where the file that it leads to moves; "" for others.
func FromCrate(name, to, newTo string) string {
	_, below, ok := strings.Cut("/"+newTo, "/src/")
	if !relative(name) || !ok {
		return ""
	}
	parts := strings.Split(plain(name), "::")
	for n := len(parts); n > 0; n-- {
		if strings.HasSuffix(Module(to), "/"+strings.Join(parts[:n], "/")) {
			return strings.Join(append([]string{"crate", strings.ReplaceAll(Module(below), "/", "::")}, parts[n:]...), "::")
		}
	}
	return ""
}
