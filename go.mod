module dicaxon

go 1.26.8

require github.com/go-git/gcfg/v2 v2.0.2

require (
	github.com/charlievieth/fastwalk v1.0.14 // indirect
	github.com/gobuffalo/flect v1.0.3 // indirect
	github.com/goccy/go-yaml v1.19.2 // indirect
	github.com/pelletier/go-toml/v2 v2.4.3 // indirect
	golang.org/x/mod v0.42.0 // indirect
)
