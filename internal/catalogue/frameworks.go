package catalogue

import (
	"dicaxon/internal/source"
)

// ReadFrameworks reads the list of frameworks from its text; the index holds it
// for the program.
func ReadFrameworks() ([]Framework, error) {
	const file = "layouts/frameworks.yaml"
	n, err := source.ReadFile(embedded, file, file)
	if err != nil {
		return nil, err
	}
	var all []Framework
	for _, item := range n.Items {
		f := Framework{}
		for _, pair := range item.Pairs {
			switch pair.Key.Text {
			case "name":
				f.Name, err = pair.Value.String("name")
			case "needs":
				f.Needs, err = pair.Value.Strings("needs")
			case "has":
				f.Has, err = pair.Value.Strings("has")
			case "families":
				f.Families, err = pair.Value.Strings("families")
			default:
				err = pair.Key.Errorf("%q is no key of a framework", pair.Key.Text)
			}
			if err != nil {
				return nil, err
			}
		}
		if f.Name == "" || len(f.Needs)+len(f.Has) == 0 {
			return nil, item.Errorf("a framework has a name and something that it is known by")
		}
		all = append(all, f)
	}
	return all, nil
}
