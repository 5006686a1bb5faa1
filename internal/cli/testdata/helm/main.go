// Renders the chart in the folder given, as helm template does, and parses what
// comes out.
package main

import (
	"log"
	"os"
	"path"

	"helm.sh/helm/v3/pkg/chart/loader"
	"helm.sh/helm/v3/pkg/chartutil"
	"helm.sh/helm/v3/pkg/engine"
	"sigs.k8s.io/yaml"
)

func main() {
	chart, err := loader.Load(os.Args[1])
	must(err)
	must(chart.Validate())
	values, err := chartutil.ToRenderValues(chart, nil, chartutil.ReleaseOptions{Name: "proof"}, nil)
	must(err)
	all, err := engine.Render(chart, values)
	must(err)
	for name, text := range all {
		var resource map[string]any
		if path.Ext(name) == ".yaml" {
			must(yaml.UnmarshalStrict([]byte(text), &resource))
			if resource["kind"] == nil {
				log.Fatalf("%s is no resource:\n%s", name, text)
			}
		}
	}
}

func must(err error) {
	if err != nil {
		log.Fatal(err)
	}
}
