package app_test

import (
	"os"
	"testing"
)

// TestMain gives all tests one home for what undo keeps, apart from the user's: what it keeps is
// told apart by folder, so tests can run beside each other.
func TestMain(m *testing.M) {
	home, err := os.MkdirTemp("", "dicaxon-app-*")
	if err != nil {
		panic(err)
	}
	os.Setenv("XDG_STATE_HOME", home)
	status := m.Run()
	os.RemoveAll(home)
	os.Exit(status)
}
