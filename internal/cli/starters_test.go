package cli_test

import (
	"bufio"
	"fmt"
	"io"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
)

// TestStartersIgnoreWhatTheirLayoutsCallIgnored asks git.
func TestStartersIgnoreWhatTheirLayoutsCallIgnored(t *testing.T) {
	for name := range scaffolds {
		l, err := catalogue.Catalogue{}.Layout(name)
		if err != nil {
			t.Fatal(err)
		}
		root := scaffolded(t, name)
		if _, err := os.Stat(filepath.Join(root, ".gitignore")); err != nil {
			continue // a part of a repository, such as a role or a chart
		}
		command(t, root, "git", "init", "-q")
		for _, path := range calledIgnored(l.Root, "") {
			if exec.Command("git", "-C", root, "check-ignore", "-q", path).Run() != nil {
				t.Errorf("%s: its ignore list lets %s pass", name, path)
			}
		}
	}
}

// calledIgnored gives a path for each entry that git is to leave alone, in its
// preferred spelling, apart from those that stand below a captured name.
func calledIgnored(e *layout.Entry, at string) []string {
	var all []string
	for _, c := range e.Entries {
		preferred := c.Spellings[0]
		if len(preferred.Captures()) > 0 {
			continue
		}
		path := at + strings.NewReplacer("*", "x", "?", "x").Replace(preferred.Text)
		if c.Folder {
			all = append(all, calledIgnored(c, path+"/")...)
			path += "/x"
		}
		if c.Git == "ignored" {
			all = append(all, path)
		}
	}
	return all
}

// servers are starters that serve as they are: how each is built and started, and
// what asks it for its first page.
var servers = map[string]struct {
	build, start []string
	page         string
}{
	"node/client-server": {nil, []string{"node", "private/main.js"}, "/"},
	"go/service":         {[]string{"go", "build", "-o", "serve", "./cmd/server"}, []string{"./serve"}, "/items"},
}

// TestServersOutliveMalformedRequestsAndEndOnSignals starts what the starters make.
func TestServersOutliveMalformedRequestsAndEndOnSignals(t *testing.T) {
	for name, s := range servers {
		t.Run(name, func(t *testing.T) {
			root := scaffolded(t, name)
			if s.build != nil {
				command(t, root, s.build[0], s.build[1:]...)
			}
			address := freeAddress(t)
			_, port, _ := net.SplitHostPort(address)
			cmd := exec.Command(s.start[0], s.start[1:]...)
			cmd.Dir = root
			cmd.Env = append(os.Environ(), "ADDRESS="+address, "PORT="+port)
			if err := cmd.Start(); err != nil {
				t.Fatal(err)
			}
			defer cmd.Process.Kill()
			if got := ask(t, address, s.page); !strings.Contains(got, " 200 ") {
				t.Errorf("%s: %s", s.page, got)
			}
			for _, odd := range []string{"//[", "/%zz", "/../../etc/passwd", "http://[", "*", "/" + strings.Repeat("a", 4000)} {
				ask(t, address, odd)
			}
			if got := ask(t, address, s.page); !strings.Contains(got, " 200 ") {
				t.Errorf("%s after malformed requests: %s", s.page, got)
			}
			cmd.Process.Signal(syscall.SIGTERM)
			ended := make(chan error, 1)
			go func() { ended <- cmd.Wait() }()
			select {
			case err := <-ended:
				if err != nil {
					t.Errorf("ended with %v", err)
				}
			case <-time.After(15 * time.Second):
				t.Error("it does not end on a signal")
			}
		})
	}
}

func freeAddress(t *testing.T) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer l.Close()
	return l.Addr().String()
}

// ask sends a request line as it is, waiting for a server that is still
// starting, and gives the status line.
func ask(t *testing.T, address, page string) string {
	t.Helper()
	var conn net.Conn
	var err error
	for deadline := time.Now().Add(20 * time.Second); time.Now().Before(deadline); time.Sleep(50 * time.Millisecond) {
		if conn, err = net.Dial("tcp", address); err == nil {
			break
		}
	}
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	conn.SetDeadline(time.Now().Add(5 * time.Second))
	fmt.Fprintf(conn, "GET %s HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n", page)
	status, _ := bufio.NewReader(conn).ReadString('\n')
	io.Copy(io.Discard, conn)
	return status
}
