//! A pack of a hundred rules, such as a large team would have.

/// Queries with a word in them that differs from rule to rule: `@`.
const QUERIES: &[&str] = &[
    "import inside function { name is \"@\" }",
    "call { callee refers \"eval.@\" }",
    "call { callee.name is \"@\" } not inside file { path like \"tools/**\" }",
    "class { keyword.name is \"metaclass\", name starts \"@\" }",
    "assignment { repeated(target), target.text starts \"@\" }",
    "import { item.module is \"@\" }",
    "(call { callee refers \"os.@\" } or call { callee refers \"io.@\" } or member { object refers \"sys.@\" }) not inside function",
    "function { name ends \"@\", count(parameter) > 6, not name starts \"test_\" }",
    "call { callee refers \"@.now\" } inside function",
    "class { name ends \"@\" } not holding function { name is \"close\" }",
    "call { callee.name is \"@\", argument.2.kind is \"string\" }",
    "(function { name starts \"@\" } or class { name starts \"@\" } or lambda inside call { callee.name is \"@\" }) not holding call",
    "call { callee.name is \"@\", callee.object as boat } after call { callee.name is \"open\", callee.object same boat }",
    "function { decorator.text matches /^@[a-z]+/ }",
    "comparison { operand.value is \"@\" }",
    "name { text is \"@\" } inside class",
    "member { object refers \"os.environ\", name is \"@\" }",
    "return { value is \"@\" } inside for",
    "call { callee refers \"time.@\" } inside file { path like \"test*/**\" }",
    "throw inside function { name starts \"@\" }",
];

/// The words.
const WORDS: &[&str] = &["get", "read", "open", "append", "sail"];

/// The pack.
pub fn pack() -> String {
    let mut pack = String::from("pack = \"hundred\"\n");
    for (index, query) in QUERIES.iter().enumerate() {
        for word in WORDS {
            let find = query.replace('@', word);
            pack += &format!(
                "[[rule]]\nname = \"need{index}-{word}\"\nlanguages = [\"python\"]\nfind = '{find}'\nmessage = \"found\"\n"
            );
        }
    }
    pack
}
