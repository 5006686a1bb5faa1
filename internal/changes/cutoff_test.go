package changes

import (
	"fmt"
	"io/fs"
	"os"
	"syscall"
	"testing"

	"dicaxon/internal/safe"
)

// TestCutOff stops after each step, as a run that is killed does; what comes next takes it
// back.
func TestCutOff(t *testing.T) {
	for n := 0; ; n++ {
		dir := ferry(t)
		before := picture(t, dir)
		p := regroup(t, dir)
		ended := false
		func() {
			root, err := whole(dir)
			if err != nil {
				t.Fatal(err)
			}
			stage, err := hold(t.Context(), root, "x")
			if err != nil {
				t.Fatal(err)
			}
			defer stage.unlock() // as the end of a process does
			w := &writer{stage: stage, texts: map[string][]byte{}}
			if w.root, err = os.OpenRoot(root); err != nil {
				t.Fatal(err)
			}
			if w.record, err = newRecord(root, "x", "x"); err != nil {
				t.Fatal(err)
			}
			if err := w.prepare(t.Context(), p); err != nil {
				t.Fatal(err)
			}
			if err := w.record.save(); err != nil {
				t.Fatal(err)
			}
			ended = n >= len(w.record.Steps)
			for i := range w.record.Steps[:min(n, len(w.record.Steps))] {
				if err := w.do(&w.record.Steps[i], i); err != nil {
					t.Fatal(err)
				}
			}
		}()
		half, err := Recover(t.Context(), dir)
		if err != nil || half == nil {
			t.Fatalf("after %d steps: %v %v", n, half, err)
		}
		same(t, fmt.Sprintf("after %d steps", n), picture(t, dir), before)
		if again, err := Recover(t.Context(), dir); again != nil || err != nil {
			t.Error("it is taken back twice")
		}
		if ended {
			return
		}
	}
}

// TestFails tells a disk that fails from one that says that nothing is there, or nothing of ours.
func TestFails(t *testing.T) {
	for err, want := range map[error]bool{
		syscall.EIO: true, syscall.EACCES: true, syscall.EROFS: true, &fs.PathError{Op: "open", Err: syscall.ENOMEM}: true,
		nil: false, fs.ErrNotExist: false, syscall.ENOENT: false, syscall.ENOTDIR: false, safe.ErrIrregular: false, safe.ErrOutside: false,
	} {
		if fails(err) != want {
			t.Errorf("%v: %v", err, !want)
		}
	}
}
