package python

import "dicaxon/internal/refs/lang"

// Standard holds the modules of the standard library: sys.stdlib_module_names of
// Python 3.11, and those that earlier ones had.
var Standard = lang.SetOf(`
ConfigParser Cookie HTMLParser Queue StringIO Tkinter __builtin__ __future__ abc aifc antigravity argparse array ast
asynchat asyncio asyncore atexit audioop base64 bdb binascii bisect builtins bz2 cPickle cProfile cStringIO calendar cgi
cgitb chunk cmath cmd code codecs codeop collections colorsys commands compileall concurrent configparser contextlib
contextvars cookielib copy copyreg crypt csv ctypes curses dataclasses datetime dbm decimal difflib dis distutils
doctest email encodings ensurepip enum errno exceptions faulthandler fcntl filecmp fileinput fnmatch fractions ftplib
functools gc genericpath getopt getpass gettext glob graphlib grp gzip hashlib heapq hmac html htmlentitydefs http
httplib idlelib imaplib imghdr imp importlib inspect io ipaddress itertools json keyword lib2to3 linecache locale
logging lzma mailbox mailcap marshal math mimetypes mmap modulefinder msilib msvcrt multiprocessing netrc nis nntplib nt
ntpath nturl2path numbers opcode operator optparse os ossaudiodev pathlib pdb pickle pickletools pipes pkgutil platform
plistlib poplib posix posixpath pprint profile pstats pty pwd py_compile pyclbr pydoc pydoc_data pyexpat queue quopri
random re readline reprlib resource rlcompleter runpy sched secrets select selectors shelve shlex shutil signal site
smtpd smtplib sndhdr socket socketserver spwd sqlite3 sre_compile sre_constants sre_parse ssl stat statistics string
stringprep struct subprocess sunau symtable sys sysconfig syslog tabnanny tarfile telnetlib tempfile termios textwrap
this thread threading time timeit tkinter token tokenize tomllib trace traceback tracemalloc tty turtle turtledemo types
typing unicodedata unittest urllib urllib2 urlparse uu uuid venv warnings wave weakref webbrowser winreg winsound
wsgiref xdrlib xml xmlrpc zipapp zipfile zipimport zlib zoneinfo`)
