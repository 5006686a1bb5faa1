package python

import "dicaxon/internal/refs/lang"

// Standard holds the modules of the standard library: sys.stdlib_module_names of
// Python 3.11, and those that earlier ones had under names
// that nobody gives a module of one's own.
var Standard = lang.SetOf(`
BaseHTTPServer Bastion CGIHTTPServer ConfigParser Cookie DocXMLRPCServer FileDialog HTMLParser Queue ScrolledText
SimpleDialog SimpleHTTPServer SimpleXMLRPCServer SocketServer StringIO Tix Tkconstants Tkdnd Tkinter UserDict UserList
UserString __builtin__ __future__ _winreg abc aifc antigravity anydbm argparse array ast asynchat asyncio asyncore
atexit audioop base64 bdb binascii binhex bisect bsddb builtins bz2 cPickle cProfile cStringIO calendar cgi cgitb
chunk cmath cmd code codecs codeop collections colorsys commands compileall concurrent configparser contextlib
contextvars cookielib copy copy_reg copyreg crypt csv ctypes curses dataclasses datetime dbhash dbm decimal difflib
dircache dis distutils doctest dumbdbm dummy_thread dummy_threading email encodings ensurepip enum errno exceptions
faulthandler fcntl filecmp fileinput fnmatch fpformat fractions ftplib functools future_builtins gc gdbm genericpath
getopt getpass gettext glob graphlib grp gzip hashlib heapq hmac hotshot html htmlentitydefs htmllib http httplib
idlelib ihooks imaplib imghdr imp importlib imputil inspect io ipaddress itertools json keyword lib2to3 linecache
locale logging lzma macpath mailbox mailcap markupbase marshal math md5 mhlib mimetools mimetypes mimify mmap
modulefinder msilib msvcrt multiprocessing netrc nis nntplib nt ntpath nturl2path numbers opcode operator optparse os
ossaudiodev pathlib pdb pickle pickletools pipes pkgutil platform plistlib popen2 poplib posix posixpath pprint
profile pstats pty pwd py_compile pyclbr pydoc pydoc_data pyexpat queue quopri random re readline reprlib resource
rfc822 rlcompleter robotparser runpy sched secrets select selectors sgmllib sha shelve shlex shutil signal site smtpd
smtplib sndhdr socket socketserver spwd sqlite3 sre_compile sre_constants sre_parse ssl stat statistics statvfs string
stringprep struct subprocess sunau symtable sys sysconfig syslog tabnanny tarfile telnetlib tempfile termios textwrap
this thread threading time timeit tkColorChooser tkCommonDialog tkFileDialog tkFont tkMessageBox tkSimpleDialog
tkinter token tokenize tomllib trace traceback tracemalloc ttk tty turtle turtledemo types typing unicodedata unittest
urllib urllib2 urlparse uu uuid venv warnings wave weakref webbrowser whichdb winreg winsound wsgiref xdrlib xml
xmllib xmlrpc xmlrpclib zipapp zipfile zipimport zlib zoneinfo`)
