package realign

import (
	"go/token"
	"go/types"
	"slices"
	"strings"
	"unicode"
)

// methodsOfOthers are names of methods by which types of the standard library know what a value can do:
// with a capital, a method of ours would be taken for one of those.
var methodsOfOthers = []string{"Add", "As", "Bytes", "Close", "Done", "Err", "Error", "Flush", "Format", "Get", "GoString", "Is", "Len", "Less", "Lock", "Name", "Next", "Open", "Pop", "Push",
	"Read", "ReadAt", "ReadByte", "ReadFrom", "Scan", "Seek", "ServeHTTP", "Set", "Size", "Stat", "String", "Swap", "Sync", "Temporary", "Timeout", "Unlock", "Unwrap", "Value", "Write", "WriteAt", "WriteString", "WriteTo"}

// show gives a field or method a capital, so that another package sees it, and says whether that changes
// nothing else: what reads a type by its fields, such as an encoder, sees none of a type that has only
// hidden ones and no tags, and nobody writes one.
func (s *goSplit) show(of types.Object) bool {
	if s.exported[of] != "" {
		return true
	}
	name := capital(of.Name())
	if !token.IsExported(name) || s.memberCalled(name) {
		return false
	}
	if _, method := of.(*types.Func); method {
		known := slices.Contains(methodsOfOthers, name) || strings.HasPrefix(name, "Marshal") || strings.HasPrefix(name, "Unmarshal")
		if known || s.recv(of) == nil {
			return false
		}
	} else if !s.hides(of) {
		return false
	}
	s.exported[of] = name
	return true
}

// initials are words that Go writes in capitals as a whole, as its review comments list them.
var initials = []string{"acl", "api", "ascii", "cpu", "css", "dns", "eof", "guid", "html", "http", "https", "id", "ip", "json", "lhs", "qps", "ram", "rhs", "rpc", "sla", "smtp", "sql", "ssh", "tcp", "tls", "ttl", "udp", "ui", "uid", "uri", "url", "utf8", "uuid", "vm", "xml", "xmpp", "xsrf", "xss"}

// capital gives a name of Go as other packages see it.
func capital(name string) string {
	first := name
	for i, c := range name {
		if unicode.IsUpper(c) || c == '_' {
			first = name[:i]
			break
		}
	}
	if slices.Contains(initials, first) {
		return strings.ToUpper(first) + name[len(first):]
	}
	return strings.ToUpper(name[:1]) + name[1:]
}

// memberCalled says whether a field or method of the package has a name.
func (s *goSplit) memberCalled(name string) bool {
	for _, of := range s.info.Defs {
		if of != nil && of.Name() == name && member(of) {
			return true
		}
	}
	for of, other := range s.exported {
		if other == name && member(of) {
			return true
		}
	}
	return false
}

// recv gives the type of the package that a method is of, nil where that is an interface.
func (s *goSplit) recv(of types.Object) *types.Named {
	at := of.(*types.Func).Signature().Recv().Type()
	if p, is := at.(*types.Pointer); is {
		at = p.Elem()
	}
	named, _ := types.Unalias(at).(*types.Named)
	if named == nil || types.IsInterface(named) {
		return nil
	}
	return named
}

// hides says whether a field is of a type of the package that shows none of its fields, embeds nothing
// and has no tags.
func (s *goSplit) hides(field types.Object) bool {
	for _, name := range s.pkg.Scope().Names() {
		of, isType := s.pkg.Scope().Lookup(name).(*types.TypeName)
		if !isType {
			continue
		}
		fields, isStruct := of.Type().Underlying().(*types.Struct)
		if !isStruct {
			continue
		}
		has, shown := false, false
		for i := range fields.NumFields() {
			f := fields.Field(i)
			has = has || f == field
			shown = shown || f.Exported() || f.Embedded() || fields.Tag(i) != ""
		}
		if has {
			return !shown
		}
	}
	return false // of a type without a name
}
