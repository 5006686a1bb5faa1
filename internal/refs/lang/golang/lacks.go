package golang

import (
	"cmp"
	"go/token"
	"go/types"
	"runtime"
	"slices"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// A Lack is what code asks of a type of the project that has no such.
type Lack struct {
	At   string    // the file that asks
	Span lang.Span // of the name there
	Name string    // what is asked for

	Of         string   // the type, "" where nothing says it
	DeclaredAt string   // the file that declares it
	Has        []string // what it has instead, as far as the place sees that
	Hidden     bool     // it has such, which its own package sees alone
	Open       bool     // it may have more, of types which are not known
	By         string   // the interface that asks, where it is one

	Twice bool // it is declared twice: here, and where DeclaredAt says
}

// Lacks gives what the packages ask of types of their own that have no such: fields and methods that are named,
// fields that a literal gives, and methods of an interface that a value is taken for (the Go specification,
// "Selectors", "Composite literals", "Implementing an interface"), and what they declare twice. Where a type has anything
// of types which are not known, the lack is open.
func (c *Checked) Lacks() []Lack {
	var all []Lack
	var one sync.Mutex
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for _, p := range c.by {
		group.Go(func() error {
			for _, r := range c.readings(p) {
				lacks := r.lacks()
				one.Lock()
				all = append(all, lacks...)
				one.Unlock()
			}
			return nil
		})
	}
	_ = group.Wait() // none of them fails
	slices.SortFunc(all, func(a, b Lack) int {
		return cmp.Or(strings.Compare(a.At, b.At), int(a.Span.Start-b.Span.Start), strings.Compare(a.Name, b.Name), strings.Compare(a.By, b.By))
	})
	return all
}

// What go/types says of a type that lacks a field or method, of a literal that gives one too many, and of a value
// that lacks a method of the interface which it is taken for.
var (
	notSelected = lazy.New(`\.(\w+) undefined \((?:type \*?([\w.]+) has no field or method \w+|cannot refer to unexported (?:field|method) (\w+)\))`)
	notGiven    = lazy.New(`^(?:unknown field (\w+) in struct literal of type ([\w.]+)|cannot refer to unexported field (\w+) in struct literal of type ([\w.]+))`)
	twice       = lazy.New(`^(?:method )?(?:(\w+)\.)?(\w+) (?:redeclared in this block|already declared at )`)
	notKept     = lazy.New(`\*?([\w.]+) does not implement ([\w.]+) \(missing method (\w+)\)`)
)

func (r *reading) lacks() (all []Lack) {
	for _, e := range r.wrong {
		if r.ofC[r.set.File(e.Pos)] {
			continue // what such a file says is written anew before it is compiled
		}
		for _, find := range [...]func(types.Error) (Lack, bool){r.selected, r.given, r.unkept, r.declaredTwice} {
			if l, lacks := find(e); lacks {
				all = append(all, l)
			}
		}
	}
	return all
}

// selected says whether a fault is that something is selected which a type has not.
func (r *reading) selected(e types.Error) (Lack, bool) {
	m := notSelected.Get().FindStringSubmatch(e.Msg)
	if m == nil {
		return Lack{}, false
	}
	if m[3] != "" { // of a type that nothing says, but that is known here
		l := r.lackAt(e.Pos, m[1])
		l.DeclaredAt, l.Hidden = l.At, true
		return l, true
	}
	return r.lack(e.Pos, m[1], r.called(m[2]))
}

// given says whether a fault is that a literal gives a field which its type has not.
func (r *reading) given(e types.Error) (Lack, bool) {
	m := notGiven.Get().FindStringSubmatch(e.Msg)
	if m == nil {
		return Lack{}, false
	}
	of := r.called(m[2] + m[4])
	if of != nil {
		if _, index, _ := types.LookupFieldOrMethod(of, true, of.Obj().Pkg(), m[1]+m[3]); len(index) > 1 {
			return Lack{}, false // a field of what it embeds, which newer versions of the language take
		}
	}
	return r.lack(e.Pos, m[1]+m[3], of)
}

// lack is that of a name at a place, and none where the type has such or is not known.
func (r *reading) lack(pos token.Pos, name string, of *types.Named) (Lack, bool) {
	if of == nil || r.elsewhere(of, name) {
		return Lack{}, false
	}
	hidden, _, _ := types.LookupFieldOrMethod(of, true, of.Obj().Pkg(), name)
	if hidden != nil && of.Obj().Pkg() == r.pkg {
		return Lack{}, false // it is of another type of that name, such as one within a function
	}
	l := r.lackAt(pos, name)
	l.Of, l.DeclaredAt, l.Hidden, l.Open = of.Obj().Name(), r.file(of.Obj()), hidden != nil, !whole(of, nil)
	for member := range membersOf(of, nil) {
		if of.Obj().Pkg() == r.pkg || token.IsExported(member) {
			l.Has = append(l.Has, member)
		}
	}
	slices.Sort(l.Has)
	return l, true
}

// unkept says whether a fault is that a type lacks what an interface of the project asks: the place is then the
// name of the type, where it is declared.
func (r *reading) unkept(e types.Error) (Lack, bool) {
	m := notKept.Get().FindStringSubmatch(e.Msg)
	if m == nil {
		return Lack{}, false
	}
	is, by := r.called(m[1]), r.called(m[2])
	if is == nil || by == nil || !whole(is, nil) || !whole(by, nil) || r.elsewhere(is, m[3]) {
		return Lack{}, false
	}
	asks, isInterface := by.Underlying().(*types.Interface)
	if _, other := is.Underlying().(*types.Interface); !isInterface || other {
		return Lack{}, false
	}
	if missing, wrongly := types.MissingMethod(types.NewPointer(is), asks, true); missing == nil || wrongly || missing.Name() != m[3] {
		return Lack{}, false
	}
	l := r.lackAt(is.Obj().Pos(), is.Obj().Name())
	l.Name, l.Of, l.By, l.DeclaredAt = m[3], is.Obj().Name(), by.Obj().Name(), r.file(by.Obj())
	asked := membersOf(by, nil)
	for i := range is.NumMethods() {
		if name := is.Method(i).Name(); !asked[name] {
			l.Has = append(l.Has, name)
		}
	}
	return l, true
}

// declaredTwice says whether a fault is that a package declares a name, or a type a method, once more. Programs that
// are run file by file each declare their main, and whatever else they like.
func (r *reading) declaredTwice(e types.Error) (Lack, bool) {
	m := twice.Get().FindStringSubmatch(e.Msg)
	if m == nil || slices.ContainsFunc(r.wrong, func(e types.Error) bool { return strings.HasPrefix(e.Msg, "main redeclared in this block") }) {
		return Lack{}, false
	}
	of := r.pkg.Scope().Lookup(m[2])
	if is := r.called(m[1]); is != nil {
		of, _, _ = types.LookupFieldOrMethod(is, true, r.pkg, m[2])
	}
	if of == nil || !of.Pos().IsValid() || of.Pos() == e.Pos {
		return Lack{}, false
	}
	l := r.lackAt(e.Pos, m[2])
	l.Of, l.DeclaredAt, l.Twice = m[1], r.file(of), true
	return l, true
}

// lackAt is a lack of a name where that stands.
func (r *reading) lackAt(pos token.Pos, name string) Lack {
	at := r.set.PositionFor(pos, false)
	return Lack{At: at.Filename, Span: lang.At(at.Offset, at.Offset+len(name)), Name: name}
}

// file gives the one that declares something.
func (r *reading) file(of types.Object) string { return r.set.PositionFor(of.Pos(), false).Filename }

// namedOf gives the type with a name that a type is, or points to; nil where it is none.
func namedOf(t types.Type) *types.Named {
	named, _ := pointedTo(t).(*types.Named)
	return named
}

// pointedTo gives what a type points to, or else the type itself.
func pointedTo(t types.Type) types.Type {
	t = types.Unalias(t)
	if p, isPointer := t.(*types.Pointer); isPointer {
		t = types.Unalias(p.Elem())
	}
	return t
}

// whole says whether all that a type has is known: nothing in it is of a type that is not.
func whole(t types.Type, met []types.Type) bool {
	t = pointedTo(t)
	if slices.Contains(met, t) {
		return true
	}
	met = append(met, t)
	switch of := t.Underlying().(type) {
	case *types.Basic:
		return of.Kind() != types.Invalid
	case *types.Struct:
		for i := range of.NumFields() {
			if f := of.Field(i); f.Embedded() && !whole(f.Type(), met) {
				return false
			}
		}
	case *types.Interface:
		for i := range of.NumEmbeddeds() {
			if !whole(of.EmbeddedType(i), met) {
				return false
			}
		}
	case *types.Pointer:
		return false // a pointer has no methods
	case *types.Union, *types.TypeParam:
		return false
	}
	return true
}

// membersOf gives the names of what a type has.
func membersOf(t types.Type, all map[string]bool) map[string]bool {
	if all == nil {
		all = map[string]bool{}
	}
	named := namedOf(t)
	if named == nil || len(all) > mostMembers {
		return all
	}
	for i := range named.NumMethods() {
		all[named.Method(i).Name()] = true
	}
	switch of := named.Underlying().(type) {
	case *types.Struct:
		for i := range of.NumFields() {
			f := of.Field(i)
			if f.Embedded() && !whole(f.Type(), nil) {
				continue // its name is nearly that of what it gives, as WriterTo is of WriteTo
			}
			if known := all[f.Name()]; f.Embedded() && !known {
				all[f.Name()] = true
				membersOf(f.Type(), all)
			}
			all[f.Name()] = true
		}
	case *types.Interface:
		for i := range of.NumMethods() {
			all[of.Method(i).Name()] = true
		}
	}
	return all
}

// mostMembers is how many names a type is asked for at most.
const mostMembers = 2000
