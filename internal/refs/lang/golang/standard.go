package golang

import (
	"maps"
	"path"
	"slices"
	"sync"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Standard holds the packages of the standard library, as "go list std" gives them without those
// that are internal: Go 1.26.
var Standard = lang.SetOf(`
archive/tar archive/zip bufio bytes cmp compress/bzip2 compress/flate compress/gzip compress/lzw compress/zlib
container/heap container/list container/ring context crypto crypto/aes crypto/cipher crypto/des crypto/dsa
crypto/ecdh crypto/ecdsa crypto/ed25519 crypto/elliptic crypto/fips140 crypto/hkdf crypto/hmac crypto/hpke crypto/md5
crypto/mlkem crypto/mlkem/mlkemtest crypto/pbkdf2 crypto/rand crypto/rc4 crypto/rsa crypto/sha1 crypto/sha256
crypto/sha3 crypto/sha512 crypto/subtle crypto/tls crypto/x509 crypto/x509/pkix database/sql database/sql/driver
debug/buildinfo debug/dwarf debug/elf debug/gosym debug/macho debug/pe debug/plan9obj embed encoding encoding/ascii85
encoding/asn1 encoding/base32 encoding/base64 encoding/binary encoding/csv encoding/gob encoding/hex encoding/json
encoding/pem encoding/xml errors expvar flag fmt go/ast go/build go/build/constraint go/constant go/doc
go/doc/comment go/format go/importer go/parser go/printer go/scanner go/token go/types go/version hash hash/adler32
hash/crc32 hash/crc64 hash/fnv hash/maphash html html/template image image/color image/color/palette image/draw
image/gif image/jpeg image/png index/suffixarray io io/fs io/ioutil iter log log/slog log/syslog maps math math/big
math/bits math/cmplx math/rand math/rand/v2 mime mime/multipart mime/quotedprintable net net/http net/http/cgi
net/http/cookiejar net/http/fcgi net/http/httptest net/http/httptrace net/http/httputil net/http/pprof net/mail
net/netip net/rpc net/rpc/jsonrpc net/smtp net/textproto net/url os os/exec os/signal os/user path path/filepath
plugin reflect regexp regexp/syntax runtime runtime/cgo runtime/coverage runtime/debug runtime/metrics runtime/pprof
runtime/race runtime/trace slices sort strconv strings structs sync sync/atomic syscall testing testing/cryptotest
testing/fstest testing/iotest testing/quick testing/slogtest testing/synctest text/scanner text/tabwriter
text/template text/template/parse time time/tzdata unicode unicode/utf16 unicode/utf8 unique unsafe weak`)

// version is the last part of a path that says which version of a package it is.
var version = lazy.New(`^v\d+$`)

// StandardName gives the name of a package of the standard library by its path, "" for one of others.
func StandardName(at string) string {
	if !Standard()[at] {
		return ""
	}
	if name := path.Base(at); !version.MatchString(name) {
		return name
	}
	return path.Base(path.Dir(at))
}

// StandardCalled gives the paths of the packages of the standard library that have a name, in their order.
func StandardCalled(name string) []string { return standardByName()[name] }

var standardByName = sync.OnceValue(func() map[string][]string {
	by := map[string][]string{}
	for _, at := range slices.Sorted(maps.Keys(Standard())) {
		by[StandardName(at)] = append(by[StandardName(at)], at)
	}
	return by
})
