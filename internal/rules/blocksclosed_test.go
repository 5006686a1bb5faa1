package rules

// What of a template has no end, beside what needs none.
func init() {
	const rule = "- {rule: blocks-closed, files: '*.tpl', marks: '\\{%-?\\s*(\\w+)', blocks: [if, for, set], alone: '\\{%-?\\s*set\\s+\\w+\\s*=', end: end, unless: '<pre', aside: '(?s)\\{#.*?#\\}'}"
	cases = append(cases, []ruled{
		{"blocks of templates", rule, files{
			"a.tpl": "{% if a %}\n{% for b in c %}\n{% endif %}\n", "b.tpl": "{% if a %}{% if b %}\n{% endif %}\n", "c.tpl": "{% if a %}{% endif %}\n{% endfor %}\n",
		}, []string{"disagrees a.tpl:3", "disagrees b.tpl:1", "disagrees c.tpl:2"}},
		{"blocks that have their ends, and marks that need none", rule, files{
			"a.tpl": "{%- if a -%}{% else %}{% for b in c %}{% set x = 1 %}{% set y %}z{% endset %}{% endfor %}{% include 'x' %}{%- endif %}{# {% if c %} #}\n", "b.tpl": "", "c.txt": "{% if a %}", "d.tpl": "<pre>{% if a %}</pre>",
		}, nil},
	}...)
}
