package app_test

import (
	"path"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestFoldersThatPeopleHave adds folders that are met in many projects of a framework: each has
// a role, and none is told to be a slip for another.
func TestFoldersThatPeopleHave(t *testing.T) {
	front := "locales/a.json theme/a.ts icons/a.ts redux/a.ts schemas/a.ts queries/a.ts models/a.ts providers/a.tsx layouts/a.tsx"
	for _, c := range []struct{ layout, in, files string }{
		{"dotnet/controllers", "src/<project>", "Repositories/A.cs Interfaces/A.cs Helpers/A.cs Validators/A.cs Mappings/A.cs Hubs/A.cs ViewModels/A.cs Jobs/A.cs Exceptions/A.cs Enums/A.cs Common/A.cs Auth/A.cs Clients/A.cs Dtos/A.cs Migrations/A.cs Middlewares/A.cs Pages/A.cshtml Areas/Staff/Views/A.cshtml"},
		{"dotnet/endpoints", "src/<project>", "Repositories/A.cs Interfaces/A.cs Validators/A.cs Migrations/A.cs"},
		{"vite/react", "src", front + " mocks/a.json reducers/a.ts router/a.tsx containers/a.tsx common/a.tsx"},
		{"react/roles", "src", front + " router/a.js shared/a.js"},
		{"react/features", "src", front + " store/a.ts contexts/a.tsx mocks/a.ts router/a.tsx"},
		{"vue/app", "src", "mixins/a.ts styles/a.scss constants/a.ts models/a.ts icons/A.vue hooks/a.ts filters/a.ts modules/crews/A.vue shared/A.vue"},
		{"nextjs/app", "", "content/a.mdx emails/a.tsx ui/a.tsx models/a.ts stores/a.ts schemas/a.ts helpers/a.ts"},
		{"flutter/screens", "lib", "themes/a.dart bloc/a.dart router/a.dart extensions/a.dart enums/a.dart domain/a.dart api/a.dart database/a.dart ui/a.dart"},
		{"react-native/roles", "src", "models/a.ts reducers/a.ts icons/A.tsx layouts/A.tsx queries/a.ts"},
		{"gin/mvc", "", "validators/a.go errors/a.go constants/a.go types/a.go jobs/a.go auth/a.go server/a.go seeds/a.go logger/a.go"},
		{"express/layers", "src", "errors/a.js interfaces/a.js clients/a.js workers/a.js migrations/a.js public/a.css"},
		{"backbone/mvc", "js", "mixins/a.js config/a.js modules/a.js controllers/a.js layouts/a.js nls/a.js"},
		{"fastify/plugins", "", "controllers/a.js hooks/a.js db/a.js helpers/a.js middleware/a.js"},
		{"fastapi/routers", "<project>", "dependencies/a.py middleware/a.py exceptions/a.py tasks/a.py config/a.py security/a.py clients/a.py constants/a.py domain/a.py"},
		{"fastapi/areas", "<project>", "core/a.py db/a.py utils/a.py workers/a.py clients/a.py"},
		{"flask/package", "<project>", "forms/a.py auth/a.py resources/a.py extensions/a.py db/a.py commands/a.py decorators/a.py"},
		{"laravel/classic", "app", "Exports/A.php ValueObjects/A.php Scopes/A.php Filament/A.php Http/Livewire/A.php Http/Traits/A.php Utils/A.php"},
		{"nest/modules", "src", "dto/a.ts schemas/a.ts enums/a.ts i18n/a.json"},
		{"electron/app", "src", "utils/a.js config/a.js services/a.js ipc/a.js"},
		{"astro/site", "src", "store/a.ts constants/a.ts"},
		{"swift/xcode", "<project>", "Screens/Harbour.swift"},
	} {
		t.Run(c.layout, func(t *testing.T) {
			t.Parallel()
			_, plan := scaffoldtest.Plan(t, c.layout, treetest.Answers[c.layout])
			root := scaffoldtest.Write(t, plan)
			in := strings.ReplaceAll(c.in, "<project>", treetest.Answers[c.layout]["project"])
			files, folders := map[string]string{}, map[string]bool{}
			for name := range strings.FieldsSeq(c.files) {
				folder, _, _ := strings.Cut(name, "/")
				files[path.Join(in, name)], folders[path.Join(in, folder)+"/"] = "", true
			}
			treetest.Add(t, root, files)
			r, err := app.Check(t.Context(), root, app.Options{Layout: c.layout})
			if err != nil {
				t.Fatal(err)
			}
			p := r.Projects[0]
			for at := range folders {
				if found := p.Placement.Lookup(at); !found.Known || found.Entry == nil || found.Entry.Role == "" {
					t.Errorf("%s has no role", at)
				}
			}
			for _, f := range p.Findings {
				if f.Kind == finding.Extra || f.Kind == finding.Misnamed || f.Kind == finding.Misplaced {
					t.Errorf("%s %s %s", f.Kind, f.Path, f.Message)
				}
			}
		})
	}
}
