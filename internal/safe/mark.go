package safe

import "bytes"

// Mark is the byte-order mark of UTF-8, which some editors put before a text.
const Mark = "\xef\xbb\xbf"

// WithoutMark gives a text without a byte-order mark, and says whether it had one.
func WithoutMark(text []byte) (plain []byte, marked bool) { return bytes.CutPrefix(text, []byte(Mark)) }
