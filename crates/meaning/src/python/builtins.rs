//! The names that Python provides, with the version that brought the newer ones.

/// Whether a name has the form of those that the language gives a meaning of its own (The Python Language Reference 3.14, 2.3.2, "Reserved
/// classes of identifiers").
pub fn is_special(name: &str) -> bool {
    name.len() > 4 && name.starts_with("__") && name.ends_with("__")
}

/// Names of the module `builtins` in 3.8.
const OLD: &[&str] = &[
    "ArithmeticError",
    "AssertionError",
    "AttributeError",
    "BaseException",
    "BlockingIOError",
    "BrokenPipeError",
    "BufferError",
    "BytesWarning",
    "ChildProcessError",
    "ConnectionAbortedError",
    "ConnectionError",
    "ConnectionRefusedError",
    "ConnectionResetError",
    "DeprecationWarning",
    "EOFError",
    "Ellipsis",
    "EnvironmentError",
    "Exception",
    "False",
    "FileExistsError",
    "FileNotFoundError",
    "FloatingPointError",
    "FutureWarning",
    "GeneratorExit",
    "IOError",
    "ImportError",
    "ImportWarning",
    "IndentationError",
    "IndexError",
    "InterruptedError",
    "IsADirectoryError",
    "KeyError",
    "KeyboardInterrupt",
    "LookupError",
    "MemoryError",
    "ModuleNotFoundError",
    "NameError",
    "None",
    "NotADirectoryError",
    "NotImplemented",
    "NotImplementedError",
    "OSError",
    "OverflowError",
    "PendingDeprecationWarning",
    "PermissionError",
    "ProcessLookupError",
    "RecursionError",
    "ReferenceError",
    "ResourceWarning",
    "RuntimeError",
    "RuntimeWarning",
    "StopAsyncIteration",
    "StopIteration",
    "SyntaxError",
    "SyntaxWarning",
    "SystemError",
    "SystemExit",
    "TabError",
    "TimeoutError",
    "True",
    "TypeError",
    "UnboundLocalError",
    "UnicodeDecodeError",
    "UnicodeEncodeError",
    "UnicodeError",
    "UnicodeTranslateError",
    "UnicodeWarning",
    "UserWarning",
    "ValueError",
    "Warning",
    "ZeroDivisionError",
    "__build_class__",
    "__debug__",
    "__doc__",
    "__import__",
    "__loader__",
    "__name__",
    "__package__",
    "__spec__",
    "abs",
    "all",
    "any",
    "ascii",
    "bin",
    "bool",
    "breakpoint",
    "bytearray",
    "bytes",
    "callable",
    "chr",
    "classmethod",
    "compile",
    "complex",
    "copyright",
    "credits",
    "delattr",
    "dict",
    "dir",
    "divmod",
    "enumerate",
    "eval",
    "exec",
    "exit",
    "filter",
    "float",
    "format",
    "frozenset",
    "getattr",
    "globals",
    "hasattr",
    "hash",
    "help",
    "hex",
    "id",
    "input",
    "int",
    "isinstance",
    "issubclass",
    "iter",
    "len",
    "license",
    "list",
    "locals",
    "map",
    "max",
    "memoryview",
    "min",
    "next",
    "object",
    "oct",
    "open",
    "ord",
    "pow",
    "print",
    "property",
    "quit",
    "range",
    "repr",
    "reversed",
    "round",
    "set",
    "setattr",
    "slice",
    "sorted",
    "staticmethod",
    "str",
    "sum",
    "super",
    "tuple",
    "type",
    "vars",
    "zip",
];

/// Names that came later, with the minor version of Python 3 that brought them.
const NEWER: &[(&str, u32)] = &[
    ("EncodingWarning", 10),
    ("aiter", 10),
    ("anext", 10),
    ("BaseExceptionGroup", 11),
    ("ExceptionGroup", 11),
    ("PythonFinalizationError", 13),
];

/// The last minor version of Python 3 that brought a name.
pub const NEWEST_CHANGE: u32 = 13;

/// Names that every module, class body or function has without binding them, and those of some platforms, of notebooks and of programs
/// that look at types ("typing.reveal_type", The Python Standard Library).
const ALWAYS_THERE: &[&str] = &[
    "__annotations__",
    "__builtins__",
    "__cached__",
    "__class__",
    "__dict__",
    "__file__",
    "__module__",
    "__path__",
    "__qualname__",
    "__firstlineno__",
    "__static_attributes__",
    "__type_params__",
    "__annotate__",
    "__conditional_annotations__",
    "WindowsError",
    "get_ipython",
    "reveal_type",
    "reveal_locals",
];

/// Whether any supported version has this name.
pub fn exists(name: &str) -> bool {
    since(name).is_some()
}

/// The minor version of Python 3 that brought a name; 8, the oldest supported one, for older names.
pub fn since(name: &str) -> Option<u32> {
    if OLD.binary_search(&name).is_ok()
        || (name.starts_with("__") && ALWAYS_THERE.contains(&name))
        || matches!(name, "WindowsError" | "get_ipython" | "reveal_type" | "reveal_locals")
    {
        return Some(8);
    }
    NEWER.iter().find(|(newer, _)| *newer == name).map(|(_, version)| *version)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_is_sorted() {
        assert!(OLD.is_sorted());
    }

    #[test]
    fn newer_names_have_their_version() {
        assert_eq!(since("print"), Some(8));
        assert_eq!(since("ExceptionGroup"), Some(11));
        assert_eq!(NEWER.iter().map(|(_, version)| *version).max(), Some(NEWEST_CHANGE));
        assert_eq!(since("unicode"), None);
    }
}
