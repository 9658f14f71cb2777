//! Names of Python 2, in files that are written for it too.

use sieve_syntax::text::Marks;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{Collector, Unknown};

/// Builtins that Python 2.7 had and 3.0 has not.
const BUILTINS: [&str; 16] = [
    "apply",
    "basestring",
    "buffer",
    "cmp",
    "coerce",
    "execfile",
    "file",
    "intern",
    "long",
    "raw_input",
    "reduce",
    "reload",
    "unichr",
    "unicode",
    "xrange",
    "StandardError",
];

/// What only a file says that knows of Python 2: it asks for the version, uses what smooths the difference, or imports a module of
/// its library.
static MARKS: Marks = Marks::new(&[
    "version_info",
    "hexversion",
    "PY2",
    "PY3",
    "python2",
    "print_function",
    "unicode_literals",
    "absolute_import",
    "import division",
    "import six",
    "from six",
    "import urllib2",
    "import StringIO",
    "import cPickle",
    "import ConfigParser",
]);

/// Whether Python 2 had a builtin of this name that Python 3 lacks.
pub fn had(name: &str) -> bool {
    BUILTINS.contains(&name)
}

/// Called when all names are gathered: most files use none of those builtins, and are not searched for the marks.
pub(super) fn on_end(collector: &mut Collector<'_>) {
    if BUILTINS.iter().any(|name| collector.is_met(name)) && MARKS.are_in(collector.text.source()) {
        collector.excuse_names(BUILTINS, Unknown::OlderVersion);
    }
}

/// `except KeyError, error:` caught the exception under that name; today it catches two.
pub(super) fn on_handler<'t>(collector: &mut Collector<'t>, handler: NodeRef<'t>) {
    let Some(caught) = handler.child(Role::Exception).filter(|caught| caught.kind() == Kind::Tuple) else { return };
    let elements: Vec<NodeRef<'t>> = caught.children_in(Role::Element).collect();
    if let [_, name] = elements[..]
        && name.kind() == Kind::Name
        && !collector.node_text(caught).starts_with('(')
    {
        collector.excuse_names([collector.node_text(name)], Unknown::OlderVersion);
        collector.excuse_names(BUILTINS, Unknown::OlderVersion);
    }
}
