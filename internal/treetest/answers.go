package treetest

// Answers gives each built-in layout answers for several units, so that what
// scaffold makes of them leaves a moved file several places that it could have
// come from.
var Answers = map[string]map[string]string{
	"airflow/project":    {"use": "tides,berth_plans"},
	"angular/app":        {"area": "sailings,berth-plans", "project": "ferry"},
	"backbone/mvc":       {"model": "Sailing,BerthPlan", "project": "ferry"},
	"dbt/domains":        {"domain": "harbour,booking,crewing", "project": "gannet", "entity": "sailings"},
	"dbt/layers":         {"source": "booking,harbour", "project": "gannet", "entity": "sailings"},
	"django/project":     {"app": "sailings,berth_plans,crews", "project": "ferry"},
	"fastapi/areas":      {"area": "sailings,berth_plans", "project": "ferry"},
	"flask/areas":        {"area": "sailings,berth_plans,manifests", "project": "ferry"},
	"flask/package":      {"audience": "travellers,crews,harbour", "project": "ferry"},
	"gin/mvc":            {"resource": "sailing,berth", "module": "gannet.example/ferry"},
	"go/command":         {"program": "ferry,back-fill", "module": "gannet.example/ferry"},
	"go/library":         {"name": "tides", "module": "gannet.example/tides"},
	"go/service":         {"resource": "sailing,berth,tide", "program": "ferry,back-fill", "module": "gannet.example/ferry"},
	"javascript/apart":   {"project": "tide-tables"},
	"javascript/beside":  {"project": "tide-tables"},
	"nextjs/app":         {"project": "tide-tables"},
	"node/client-server": {"module": "sailings,berth-plans", "project": "ferry"},
	"node/service":       {"resource": "sailing,berthPlan", "project": "ferry"},
	"python/package":     {"project": "tides"},
	"python/script":      {"project": "tides"},
	"python/source":      {"project": "tide_tables"},
	"react-native/roles": {"screen": "Sailings,BerthPlans", "project": "Ferry"},
	"react/features":     {"feature": "sailings,berth-plans", "project": "ferry"},
	"react/roles":        {"topic": "sailings,berthPlans", "component": "Timetable"},
	"rust/crate":         {"project": "tide-tables"},
	"rust/workspace":     {"crate": "tides,berth-plans,crews,manifests"},
	"vite/react":         {"project": "tide-tables"},
	"vue/app":            {"view": "Sailings,BerthPlans", "project": "ferry"},
}
