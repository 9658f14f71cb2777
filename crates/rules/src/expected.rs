//! Places where an error is expected: the failure is intended, or handled.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// Whether a place is where a test says that an error is to come.
pub(crate) fn tests_error(file: File<'_>, node: NodeRef<'_>) -> bool {
    node.levels().take(MOST_LEVELS).any(|(inner, around)| says_error(file, inner, around))
}

/// So many levels around a node are looked at: chains of calls are as deep as they are long.
const MOST_LEVELS: usize = 64;

fn says_error(file: File<'_>, inner: NodeRef<'_>, around: NodeRef<'_>) -> bool {
    let says = |node: NodeRef<'_>| {
        let text = file.node_text(node);
        let ends = || text.rsplit('.').next().is_some_and(|last| is_short(last) && last.contains("hrow"));
        let says = || ["raises", "Raises", "throws", "Throws", "toThrow"].iter().any(|word| text.contains(word));
        if is_short(text) { says() } else { ends() }
    };
    match around.kind() {
        Kind::With => around.children_in(Role::Item).any(says),
        Kind::Call => around.child(Role::Callee).is_some_and(|callee| callee != inner && says(callee)),
        _ => false,
    }
}

/// Words in a condition that asks what something takes, or on which platform it is.
const DECIDING: &[&str] = &["signature", ".parameters", "argcount", "argspec", "is_windows", "sys.platform", "os.name"];

/// Whether a call is where an error is expected: in tests that say so, and where errors of types are handled.
pub(crate) fn expects_error(file: File<'_>, call: NodeRef<'_>) -> bool {
    if is_declared_wrong(file, call) {
        return true;
    }
    // On another platform the name may be that of something else.
    let asks_for_signature = |condition: NodeRef<'_>| {
        let condition = file.node_text(condition);
        is_short(condition) && DECIDING.iter().any(|word| condition.contains(word))
    };
    let mut inner = call;
    for around in call.ancestors() {
        let expects = match around.kind() {
            Kind::With | Kind::Call => says_error(file, inner, around),
            Kind::Try if file.traits.typed_handlers => {
                inner.role() == Role::Body
                    && around.children_in(Role::Handler).any(|one| {
                        one.child(Role::Exception).is_none_or(|error| file.node_text(error).contains("TypeError"))
                    })
            }
            // `except TypeError: return crew.call()`: an older signature.
            Kind::Catch if file.traits.typed_handlers => {
                inner.role() == Role::Body
                    && around.child(Role::Exception).is_some_and(|error| {
                        let error = file.node_text(error);
                        is_short(error) && error.contains("TypeError")
                    })
            }
            Kind::If => inner.role() == Role::Body && around.child(Role::Condition).is_some_and(asks_for_signature),
            _ => false,
        };
        if expects {
            return true;
        }
        inner = around;
    }
    false
}

/// Whether a condition or a line is no longer than what people write. Others, in bytes, would be looked through again and again: for each
/// place that they decide over.
pub(crate) fn is_short(text: &str) -> bool {
    text.len() < 500
}

/// The line above a place.
pub(crate) fn line_above<'f>(file: File<'f>, place: u32) -> Option<&'f str> {
    let lines = file.text.lines();
    let above = lines.line_of(place).checked_sub(1).filter(|line| *line > 0)?;
    Some(file.text.slice(lines.full_line(above)))
}

/// Whether the comment on the line above tells the compiler of the language that types do not fit here.
pub(crate) fn is_declared_wrong(file: File<'_>, call: NodeRef<'_>) -> bool {
    let Some(above) = line_above(file, call.span().start).map(str::trim_start) else { return false };
    is_short(above) && above.starts_with("//") && (above.contains("@ts-expect-error") || above.contains("@ts-ignore"))
}

/// Whether an attribute or annotation says that what it is on may be unused: `#[allow(unused)]`, `@SuppressWarnings("unused")`.
pub(crate) fn allows_unused(file: File<'_>, attribute: NodeRef<'_>) -> bool {
    let said = file.node_text(attribute);
    is_short(said) && ["unused", "warnings", "dead_code", "\"all\""].iter().any(|word| said.contains(word))
}

/// Whether code belongs to a test: by its file, or by what is said of it or of a module around it to the compiler.
pub(crate) fn is_test_code(file: File<'_>, node: NodeRef<'_>) -> bool {
    let says_test = |around: NodeRef<'_>| {
        let said =
            |decorator: NodeRef<'_>| ["test", "bench"].iter().any(|word| file.node_text(decorator).contains(word));
        attributes(around).any(said)
    };
    file.is_test() || node.ancestors().any(says_test)
}

/// So many attributes of a node are looked at, as all that is in it has them around.
const MOST_ATTRIBUTES: usize = 30;

/// The attributes before a node, or at the beginning of a file or a block.
pub(crate) fn attributes<'t>(node: NodeRef<'t>) -> impl Iterator<Item = NodeRef<'t>> {
    node.children().take(MOST_ATTRIBUTES).take_while(|part| part.role() == Role::Decorator)
}

/// Whether an import is where it may fail: in a `try` that handles that, or in a test that expects it.
pub(crate) fn handles_failed_import(file: File<'_>, import: NodeRef<'_>) -> bool {
    let expects =
        |item: NodeRef<'_>| ["Error", "raises", "suppress"].iter().any(|word| file.node_text(item).contains(word));
    let in_with = import
        .ancestors()
        .filter(|node| node.kind() == Kind::With)
        .any(|with| with.children_in(Role::Item).any(expects));
    in_with || is_in_handling_try(file, import)
}

fn is_in_handling_try(file: File<'_>, import: NodeRef<'_>) -> bool {
    import.ancestors().filter(|node| node.kind() == Kind::Try).any(|node| {
        node.children_in(Role::Handler).any(|handler| match handler.child(Role::Exception) {
            None => true,
            Some(exception) => {
                let text = file.node_text(exception);
                text.contains("ImportError") || text.contains("ModuleNotFoundError") || text.ends_with("Exception")
            }
        })
    })
}
