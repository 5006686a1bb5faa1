package python

import (
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/refs/lang"
)

// Foreign says whether a module is of others, and neither the standard library nor
// anything that the project requires may give it.
func Foreign(l *lang.Look, first string) bool {
	return lists(l) && !declared(l, first) && !brought(l, first)
}

// distributions says by which other names packages are required whose modules are
// called otherwise, and with which others modules come along.
var distributions = sync.OnceValue(func() map[string][]string {
	all := map[string][]string{}
	for _, line := range strings.Split(`bs4 beautifulsoup4
cv2 opencvpython opencvpythonheadless opencvcontribpython
PIL pillow
sklearn scikitlearn
skimage scikitimage
yaml pyyaml ruamelyaml
dateutil pythondateutil pandas
dotenv pythondotenv uvicorn
jwt pyjwt
magic pythonmagic
MySQLdb mysqlclient
psycopg2 psycopg2binary
Crypto pycryptodome
git gitpython
serial pyserial
usb pyusb
attr attrs
google googlecloud googleapi protobuf
googleapiclient googleapipythonclient
OpenSSL pyopenssl
docx pythondocx
pptx pythonpptx
slugify pythonslugify
telegram pythontelegrambot
discord discordpy
pkg_resources setuptools
gi pygobject
wx wxpython
fitz pymupdf
win32api pywin32
zmq pyzmq
lxml lxml scrapy
numpy pandas scipy matplotlib scikitlearn torch tensorflow keras opencvpython xarray
werkzeug flask
jinja2 flask ansible django fastapi sphinx
markupsafe flask jinja2
itsdangerous flask
click flask typer blackd
blinker flask
starlette fastapi
pydantic fastapi sqlmodel pydanticsettings
anyio fastapi starlette httpx
pydantic_settings fastapi
pydantic_extra_types fastapi
sqlalchemy flasksqlalchemy alembic sqlmodel apacheairflow pandas
alembic flaskmigrate
wtforms flaskwtf
marshmallow flaskmarshmallow
asgiref django
urllib3 requests botocore boto3
certifi requests httpx
idna requests
charset_normalizer requests
botocore boto3
six pythondateutil
packaging pytest setuptools
pluggy pytest
_pytest pytest
pendulum apacheairflow
airflow apacheairflow
jsonschema openapi
multipart pythonmultipart
grpc grpcio
kazoo kazoo
mpl_toolkits matplotlib`, "\n") {
		fields := strings.Fields(line)
		all[fields[0]] = fields[1:]
	}
	return all
})

// brought says whether something that the project requires brings a module.
func brought(l *lang.Look, first string) bool {
	return slices.ContainsFunc(distributions()[first], func(name string) bool { return declared(l, name) })
}
