// Package schemas lists the schemas of a database: from PostgreSQL itself, or
// from a list that somebody saved.
package schemas

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"net/url"
	"path/filepath"
	"slices"
	"strings"
	"time"

	_ "github.com/lib/pq" // the driver that database/sql calls

	"dicaxon/internal/safe"
)

// patience is how long a database is waited for.
const patience = 20 * time.Second

// Read gives the names of the schemas, sorted, each once. The source is the
// address of a PostgreSQL database ("postgres://…"), or the path of a CSV or
// JSON file. No error shows a password.
func Read(source string) ([]string, error) {
	if IsDatabase(source) {
		return ask(source)
	}
	text, err := safe.ReadAny(source, safe.Listing)
	if err != nil {
		return nil, err
	}
	return Parse(source, text)
}

// IsDatabase says whether a source is the address of a database.
func IsDatabase(source string) bool {
	return strings.HasPrefix(source, "postgres://") || strings.HasPrefix(source, "postgresql://")
}

// ask reads the information schema (ISO/IEC 9075-11), without what belongs to
// the database itself.
func ask(source string) ([]string, error) {
	address, err := url.Parse(source)
	if err != nil {
		return nil, errors.New("the address of the database is none: write postgres://person@host/database")
	}
	db, err := sql.Open("postgres", source)
	if err != nil {
		return nil, told(address, err)
	}
	defer db.Close()
	limit, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	rows, err := db.QueryContext(limit, `select schema_name from information_schema.schemata
		where schema_name <> 'information_schema' and schema_name not like 'pg\_%'`)
	if err != nil {
		return nil, told(address, err)
	}
	defer rows.Close()
	var all []string
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, told(address, err)
		}
		all = append(all, name)
	}
	return tidy(all), rows.Err()
}

// told names the database in an error, without the password.
func told(address *url.URL, err error) error {
	said := err.Error()
	if password, ok := address.User.Password(); ok && password != "" {
		said = strings.ReplaceAll(said, password, "…")
	}
	return fmt.Errorf("the database %s cannot be asked: %s", address.Redacted(), said)
}

// columns are what a saved list calls the names.
var columns = []string{"schema_name", "schema", "table_schema", "nspname", "name"}

// Parse reads a saved list: CSV with or without a header, or JSON, a list of
// names or of objects that hold one.
func Parse(name string, text []byte) ([]string, error) {
	if filepath.Ext(name) == ".json" {
		return parseJSON(name, text)
	}
	r := csv.NewReader(bytes.NewReader(text))
	r.FieldsPerRecord = -1
	r.TrimLeadingSpace = true
	rows, err := r.ReadAll()
	if err != nil {
		return nil, fmt.Errorf("%s is no CSV: %w", name, err)
	}
	column := 0
	if len(rows) > 0 {
		for _, known := range columns {
			if i := slices.IndexFunc(rows[0], func(c string) bool { return strings.EqualFold(strings.TrimSpace(c), known) }); i >= 0 {
				column, rows = i, rows[1:]
				break
			}
		}
	}
	var all []string
	for _, row := range rows {
		if column < len(row) {
			all = append(all, strings.TrimSpace(row[column]))
		}
	}
	return tidy(all), nil
}

func parseJSON(name string, text []byte) ([]string, error) {
	var items []any
	if err := json.Unmarshal(text, &items); err != nil {
		return nil, fmt.Errorf("%s is no JSON list: %w", name, err)
	}
	var all []string
	for _, item := range items {
		switch v := item.(type) {
		case string:
			all = append(all, v)
		case map[string]any:
			for _, known := range columns {
				if s, ok := v[known].(string); ok {
					all = append(all, s)
					break
				}
			}
		}
	}
	return tidy(all), nil
}

func tidy(all []string) []string {
	all = slices.DeleteFunc(all, func(s string) bool { return s == "" })
	slices.Sort(all)
	return slices.Compact(all)
}
