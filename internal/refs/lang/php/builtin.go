package php

import "dicaxon/internal/refs/lang"

// builtin are classes and interfaces that PHP has of itself, at the top of all namespaces: PHP Manual,
// "Predefined Interfaces and Classes", "SPL" and "Date and Time".
var builtin = lang.SetOf(`ArgumentCountError ArithmeticError ArrayAccess ArrayIterator ArrayObject AssertionError BackedEnum
	BadFunctionCallException BadMethodCallException Closure CompileError Countable DateInterval DatePeriod DateTime
	DateTimeImmutable DateTimeInterface DateTimeZone Directory DirectoryIterator DivisionByZeroError DomainException
	DOMDocument DOMElement DOMNode Error ErrorException Exception Fiber FilterIterator Generator InvalidArgumentException
	Iterator IteratorAggregate IteratorIterator JsonException JsonSerializable LengthException LimitIterator LogicException
	MultipleIterator NumberFormatter OutOfBoundsException OutOfRangeException OuterIterator OverflowException ParseError PDO
	PDOException PDOStatement RangeException RecursiveIterator RecursiveIteratorIterator ReflectionClass ReflectionEnum
	ReflectionException ReflectionFunction ReflectionMethod ReflectionNamedType ReflectionObject ReflectionProperty
	RuntimeException SeekableIterator SensitiveParameter Serializable SimpleXMLElement SplFileInfo SplFileObject SplObjectStorage
	SplObserver SplPriorityQueue SplQueue SplStack SplSubject SplTempFileObject stdClass Stringable Throwable Traversable
	TypeError UnderflowException UnexpectedValueException UnhandledMatchError UnitEnum ValueError WeakMap WeakReference
	ZipArchive`)

// BuiltIn says whether a class that a file names without a namespace is one of PHP's own.
func BuiltIn(name string) bool { return builtin()[name] }
