//! What a node is to its parent.

use std::fmt;

macro_rules! roles {
    ($($role:ident $name:literal,)*) => {
        /// The part that a node plays in its parent.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        #[repr(u8)]
        #[expect(missing_docs, reason = "the names are the field's own words")]
        pub enum Role { $($role,)* }

        impl Role {
            /// Every role.
            pub const ALL: &'static [Role] = &[$(Role::$role,)*];

            /// Its name in queries: lower-case words joined by hyphens.
            pub fn name(self) -> &'static str {
                match self { $(Role::$role => $name,)* }
            }
        }
    };
}

roles! {
    Root "root",
    Part "part",
    Statement "statement",
    Name "name",
    Body "body",
    Condition "condition",
    Else "else",
    Finally "finally",
    Handler "handler",
    Exception "exception",
    Cause "cause",
    Message "message",
    Decorator "decorator",
    TypeParameters "type-parameters",
    TypeArguments "type-arguments",
    Parameters "parameters",
    Parameter "parameter",
    Type "type",
    Default "default",
    Bound "bound",
    Returns "returns",
    Receiver "receiver",
    Arguments "arguments",
    Argument "argument",
    Callee "callee",
    Target "target",
    Value "value",
    Iterable "iterable",
    Item "item",
    Subject "subject",
    Case "case",
    Pattern "pattern",
    Guard "guard",
    Module "module",
    Alias "alias",
    Element "element",
    Key "key",
    Clause "clause",
    Operand "operand",
    Left "left",
    Right "right",
    Object "object",
    Index "index",
    Lower "lower",
    Upper "upper",
    Step "step",
    Conversion "conversion",
    Format "format",
    Redirection "redirection",
    Start "start",
    End "end",
    Label "label",
    Attribute "attribute",
    Child "child",
    Selector "selector",
}

impl Role {
    /// The role with this name, if there is one.
    pub fn named(name: &str) -> Option<Role> {
        Role::ALL.iter().copied().find(|role| role.name() == name)
    }
}

impl fmt::Display for Role {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.pad(self.name())
    }
}
