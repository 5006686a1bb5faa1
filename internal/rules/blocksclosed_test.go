package rules

// What of a template has no end, beside what needs none.
func init() {
	const rule = "- {rule: blocks-closed, files: '*.html', marks: '\\{%-?\\s*(\\w+)', blocks: [if, for, set], alone: '\\{%-?\\s*set\\s+\\w+\\s*=', end: end, aside: '(?s)\\{#.*?#\\}'}"
	cases = append(cases, []ruled{
		{"blocks of templates", rule, files{
			"a.html": "{% if a %}\n{% for b in c %}\n{% endif %}\n", "b.html": "{% if a %}{% if b %}\n{% endif %}\n", "c.html": "{% if a %}{% endif %}\n{% endfor %}\n",
		}, []string{"disagrees a.html:3", "disagrees b.html:1", "disagrees c.html:2"}},
		{"blocks that have their ends, and marks that need none", rule, files{
			"a.html": "{%- if a -%}{% else %}{% for b in c %}{% set x = 1 %}{% set y %}z{% endset %}{% endfor %}{% include 'x' %}{%- endif %}{# {% if c %} #}\n", "b.html": "", "c.txt": "{% if a %}",
		}, nil},
	}...)
}
