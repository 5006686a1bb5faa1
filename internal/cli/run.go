package cli

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"os"
	"os/signal"
	"sync/atomic"
	"syscall"
	"time"

	"dicaxon/internal/doing"
	"dicaxon/internal/output"
	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
)

// patience is how long a command may take where --timeout says nothing.
const patience = 30 * time.Minute

// Who is told to stop gets so long to clear up what it had begun to write.
const farewell = 5 * time.Second

// Run runs the program with the arguments given and returns its exit status.
func Run(args []string, stdin, stdout, stderr *os.File) int {
	p := newProgram(stdin, stdout, stderr)
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	stopped := make(chan os.Signal, 1)
	signal.Notify(stopped, os.Interrupt, syscall.SIGTERM, syscall.SIGHUP)
	late := time.NewTimer(patience)
	p.limit = func(d time.Duration) { late.Reset(d) }
	done := make(chan int, 1)
	go func() { done <- p.execute(ctx, args) }()
	status, said := statusDisk, ""
	select {
	case status := <-done:
		return status
	case s := <-stopped:
		said = "stopped"
		if n, ok := s.(syscall.Signal); ok {
			status = 128 + int(n) // as shells have it
		}
	case <-late.C:
		said = "this takes too long"
		if what := doing.Now(); what != "" {
			said += ": " + what
		}
		said += "; --timeout gives it more time"
	}
	cancel()
	if !p.state.CompareAndSwap(idle, stopping) {
		select {
		case <-done:
		case <-time.After(farewell):
		}
	}
	fmt.Fprintf(output.NewPrinter(stderr), "dicaxon: %s\n", safe.Redacted(tree.Printable(said)))
	return status
}

// What a run is doing, as far as it matters to who stops it.
const (
	idle int32 = iota
	writing
	stopping
)

// write does something that writes: who is told to stop meanwhile waits for it to clear up,
// and who was told to before does not begin.
func (p *program) write(do func() error) error {
	if !p.state.CompareAndSwap(idle, writing) {
		return context.Canceled
	}
	defer p.state.Store(idle)
	return do()
}

func newProgram(stdin io.Reader, stdout, stderr *os.File) *program {
	p := &program{in: stdin, out: output.NewPrinter(bufio.NewWriter(stdout)), err: output.NewPrinter(stderr), stdout: stdout, stderr: stderr, state: new(atomic.Int32)}
	p.stdin, _ = stdin.(*os.File)
	p.out.ASCII, p.err.ASCII = !utf8Locale(), !utf8Locale()
	return p
}

// execute runs the command that the arguments name.
func (p *program) execute(ctx context.Context, args []string) int {
	root := p.root()
	root.SetArgs(args)
	err := root.ExecuteContext(ctx)
	if flush := p.out.Flush(); err == nil {
		err = flush
	}
	if err != nil {
		return p.fail(err)
	}
	return p.status
}
