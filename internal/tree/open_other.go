//go:build !linux

package tree

import (
	"errors"
	"io"
	"os"
)

func openBeneath(*os.File, string) (io.ReadCloser, int64, error) {
	return nil, 0, errors.ErrUnsupported
}
