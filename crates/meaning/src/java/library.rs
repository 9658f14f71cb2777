//! What comes with the language: its packages, and the types that every file sees.

/// The types of `java.lang` ("java.lang", Java SE 21 API Specification).
const OF_LANG: &[&str] = &[
    "AbstractMethodError",
    "Appendable",
    "ArithmeticException",
    "ArrayIndexOutOfBoundsException",
    "ArrayStoreException",
    "AssertionError",
    "AutoCloseable",
    "Boolean",
    "BootstrapMethodError",
    "Byte",
    "CharSequence",
    "Character",
    "Class",
    "ClassCastException",
    "ClassCircularityError",
    "ClassFormatError",
    "ClassLoader",
    "ClassNotFoundException",
    "ClassValue",
    "CloneNotSupportedException",
    "Cloneable",
    "Comparable",
    "Deprecated",
    "Double",
    "Enum",
    "EnumConstantNotPresentException",
    "Error",
    "Exception",
    "ExceptionInInitializerError",
    "Float",
    "FunctionalInterface",
    "IllegalAccessError",
    "IllegalAccessException",
    "IllegalArgumentException",
    "IllegalCallerException",
    "IllegalMonitorStateException",
    "IllegalStateException",
    "IllegalThreadStateException",
    "IncompatibleClassChangeError",
    "IndexOutOfBoundsException",
    "InheritableThreadLocal",
    "InstantiationError",
    "InstantiationException",
    "Integer",
    "InternalError",
    "InterruptedException",
    "Iterable",
    "LayerInstantiationException",
    "LinkageError",
    "Long",
    "MatchException",
    "Math",
    "Module",
    "ModuleLayer",
    "NegativeArraySizeException",
    "NoClassDefFoundError",
    "NoSuchFieldError",
    "NoSuchFieldException",
    "NoSuchMethodError",
    "NoSuchMethodException",
    "NullPointerException",
    "Number",
    "NumberFormatException",
    "Object",
    "OutOfMemoryError",
    "Override",
    "Package",
    "Process",
    "ProcessBuilder",
    "ProcessHandle",
    "Readable",
    "Record",
    "ReflectiveOperationException",
    "Runnable",
    "Runtime",
    "RuntimeException",
    "RuntimePermission",
    "SafeVarargs",
    "SecurityException",
    "SecurityManager",
    "Short",
    "StackOverflowError",
    "StackTraceElement",
    "StackWalker",
    "StrictMath",
    "String",
    "StringBuffer",
    "StringBuilder",
    "StringIndexOutOfBoundsException",
    "SuppressWarnings",
    "System",
    "Thread",
    "ThreadDeath",
    "ThreadGroup",
    "ThreadLocal",
    "Throwable",
    "TypeNotPresentException",
    "UnknownError",
    "UnsatisfiedLinkError",
    "UnsupportedClassVersionError",
    "UnsupportedOperationException",
    "VerifyError",
    "VirtualMachineError",
    "Void",
    "WrongThreadException",
];

/// Whether a type belongs to `java.lang`, which every file imports.
pub(super) fn is_of_lang(name: &str) -> bool {
    OF_LANG.binary_search(&name).is_ok()
}

/// Whether a package or a type belongs to the library.
pub(crate) fn is_of_library(path: &str) -> bool {
    ["java.", "javax.", "jdk."].iter().any(|start| path.starts_with(start))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn types_of_the_language_are_found() {
        assert!(OF_LANG.is_sorted());
        assert!(is_of_lang("System") && is_of_lang("AbstractMethodError") && !is_of_lang("List"));
        assert!(is_of_library("java.util.List") && !is_of_library("javanese.Tide"));
    }
}
