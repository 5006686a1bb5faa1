module dicaxon

go 1.26.8

require github.com/go-git/gcfg/v2 v2.0.2

require (
	github.com/charlievieth/fastwalk v1.0.14 // indirect
	github.com/goccy/go-yaml v1.19.2 // indirect
)
