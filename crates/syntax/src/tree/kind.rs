//! The one table of node kinds, for all languages.
//!
//! A thing that several languages have is one kind. The table says for each kind its name in queries and in
//! `hsieve tree`, the roles its parts have, and what it is.

use std::fmt;

use super::Role;

macro_rules! kinds {
    ($($kind:ident $name:literal [$($role:ident)*] $about:literal;)*) => {
        /// What a node is.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        #[repr(u16)]
        pub enum Kind { $(#[doc = $about] $kind,)* }

        impl Kind {
            /// Every kind, in the order of the table.
            pub const ALL: &'static [Kind] = &[$(Kind::$kind,)*];

            /// Its name in queries: lower-case words joined by hyphens.
            pub fn name(self) -> &'static str {
                match self { $(Kind::$kind => $name,)* }
            }

            /// What it is, in one line.
            pub fn about(self) -> &'static str {
                match self { $(Kind::$kind => $about,)* }
            }

            /// The roles that its children may have.
            pub fn roles(self) -> &'static [Role] {
                match self { $(Kind::$kind => &[$(Role::$role,)*],)* }
            }
        }
    };
}

kinds! {
    File "file" [Statement Value Part] "a whole source file";
    Error "error" [Part Body] "tokens that could not be understood";
    Opaque "opaque" [] "code nested deeper than the limit, not looked into";

    Block "block" [Statement Part] "the statements that belong to a compound statement";
    Function "function" [Decorator Name TypeParameters Parameters Returns Body] "a function or method with a name";
    Class "class" [Decorator Name TypeParameters Arguments Body] "a class";
    Decorator "decorator" [Value] "an expression applied to the function or class below it";
    Heritage "heritage" [Value Type] "what a class or interface is built on";
    Field "field" [Decorator Name Type Value] "a member of a class or of a type that holds a value";
    StaticBlock "static-block" [Body] "statements that run when a class is made";
    IndexSignature "index-signature" [Parameter Type] "the type of the members that a type has under any key";
    Interface "interface" [Name TypeParameters Arguments Body] "a named type of objects";
    Enum "enum" [Name Body] "a type that is a list of named values";
    EnumMember "enum-member" [Name Value] "one named value of an enum";
    Namespace "namespace" [Name Body] "declarations that share a name, or a module that is described";
    TypeParameters "type-parameters" [Parameter] "the bracketed type parameters of a function, class or type alias";
    TypeParameter "type-parameter" [Name Bound Default] "one type parameter";
    Parameters "parameters" [Parameter] "the parameters of a function";
    Parameter "parameter" [Decorator Name Pattern Type Default] "one parameter, or a mark among them such as a lone star";
    If "if" [Condition Body Else] "a choice between blocks; a further condition is an `if` in the role `else`";
    While "while" [Condition Body Else] "a loop that runs while a condition holds";
    DoWhile "do-while" [Body Condition] "a loop that runs once before it asks its condition";
    For "for" [Target Iterable Start Condition Step Body Else] "a loop over the elements of something, or one that counts";
    Try "try" [Body Handler Else Finally] "a block with handlers for what it may throw";
    Catch "catch" [Exception Name Pattern Type Body] "a handler of exceptions";
    With "with" [Item Body] "a block that runs with managed resources";
    WithItem "with-item" [Value Target] "one managed resource";
    Match "match" [Subject Case] "a choice by patterns";
    Case "case" [Pattern Guard Body] "one choice of a match";
    Labeled "labeled" [Label Body] "a statement with a label, which others leave or go on with";
    Return "return" [Value Callee Argument Redirection Part] "leaves a function";
    Throw "throw" [Exception Cause] "raises an exception";
    Break "break" [Label Callee Argument Redirection Part] "leaves a loop";
    Continue "continue" [Label Callee Argument Redirection Part] "goes on with a loop's next round";
    Pass "pass" [] "a statement that does nothing";
    Debugger "debugger" [] "a stop for a debugger";
    Declaration "declaration" [Item] "declares variables";
    Assert "assert" [Condition Message] "states what must hold";
    Delete "delete" [Target] "unbinds names, members or elements";
    Global "global" [Name] "names that belong to the module";
    Nonlocal "nonlocal" [Name] "names that belong to an enclosing function";
    Import "import" [Module Item Argument] "imports modules or names of a module";
    ModuleName "module-name" [] "the dotted name of a module, with leading dots if relative";
    ImportItem "import-item" [Module Name Alias] "one imported module or name";
    ImportAll "import-all" [Alias] "the star that imports every public name, perhaps under one name";
    ImportDefault "import-default" [Name] "the default export of a module";
    ImportAssignment "import-assignment" [Name Value] "a name for another one, or for a module that is required";
    Export "export" [Decorator Value Item Module Argument Name] "hands declarations or names out to other modules";
    ExportItem "export-item" [Name Alias] "one exported name";
    ExportAll "export-all" [Alias] "the star that re-exports every name of another module";
    TypeAlias "type-alias" [Name TypeParameters Value] "a statement that names a type";
    ExpressionStatement "expression-statement" [Value] "an expression used as a statement";
    Assignment "assignment" [Target Index Value] "binds targets to a value";
    AnnotatedAssignment "annotated-assignment" [Target Type Value] "declares the type of a target, perhaps with a value";
    CompoundAssignment "compound-assignment" [Target Value] "an assignment that uses the old value, such as `+=`";

    Command "command" [Callee Argument Redirection Part] "a simple command of a shell: assignments, a name, arguments, redirections";
    Redirected "redirected" [Body Redirection] "a compound command with redirections for all of it";
    Pipeline "pipeline" [Element Part] "commands of which each reads what the one before writes";
    Subshell "subshell" [Body] "commands that run in a shell of their own";
    CommandGroup "command-group" [Body] "commands in braces";
    ShellTest "shell-test" [Condition] "a condition in double brackets";
    Coprocess "coprocess" [Name Body] "a command that runs beside the shell, joined by pipes";
    HereDocument "here-document" [Part] "the lines that a command reads as its input, and the line that ends them";
    Redirection "redirection" [Target] "where a command reads from or writes to";
    Word "word" [Part] "a word of a shell: plain, quoted and expanded parts side by side";
    Expansion "expansion" [Name Part] "the value of a parameter, perhaps changed on the way";
    CommandSubstitution "command-substitution" [Statement Part] "what commands write, in a word";
    ProcessSubstitution "process-substitution" [Statement Part] "a file name that commands read from or write to";
    Arithmetic "arithmetic" [Operand Part] "arithmetic of a shell";

    Name "name" [] "a name";
    PropertyName "property-name" [] "a name that is both key and value of an entry";
    PrivateName "private-name" [] "the name of a private member";
    ComputedName "computed-name" [Value] "the name of a member that an expression gives";
    This "this" [] "the object that a function was called on";
    Super "super" [] "the class or object behind this one";
    RegularExpression "regular-expression" [] "a regular expression";
    Number "number" [] "a number";
    String "string" [] "a string literal";
    Bytes "bytes" [] "a bytes literal";
    FormatString "format-string" [Part] "a string literal with interpolated expressions";
    TemplateString "template-string" [Part] "a string literal whose interpolated expressions are kept apart";
    TaggedTemplate "tagged-template" [Callee TypeArguments Value] "a template given to a function";
    Interpolation "interpolation" [Value Conversion Format] "an expression within a string, or between tags";
    Conversion "conversion" [] "the conversion of an interpolation, such as `!r`";
    FormatSpec "format-spec" [Part] "the format of an interpolation";
    Concatenation "concatenation" [Part] "string literals side by side, which are one string";
    Boolean "boolean" [] "true or false";
    Null "null" [] "the null value";
    EllipsisLiteral "ellipsis" [] "the literal `...`";
    Group "group" [Value] "an expression in parentheses";
    Tuple "tuple" [Element] "a tuple";
    List "list" [Element] "a list or array literal";
    Set "set" [Element] "a set literal";
    Dictionary "dictionary" [Element] "a literal that maps keys to values";
    Pair "pair" [Key Value] "a key with its value";
    ShorthandPair "shorthand-pair" [Name Default] "a name that is key and value at once";
    Comprehension "comprehension" [Element Clause] "a list, set, dictionary or generator built by loops";
    ComprehensionClause "comprehension-clause" [Target Iterable Condition] "one loop of a comprehension with its conditions";
    Lambda "lambda" [Name TypeParameters Parameters Returns Body] "a function written as an expression";
    ClassExpression "class-expression" [Decorator Name TypeParameters Arguments Body] "a class written as an expression";
    Conditional "conditional" [Value Condition Else] "a choice between two values";
    NamedExpression "named-expression" [Target Value] "an expression that also binds a name";
    Logical "logical" [Operand Part] "operands joined by `and` or by `or`";
    Comparison "comparison" [Operand] "two or more operands with comparisons between them";
    Binary "binary" [Left Right] "two operands with an operator between them";
    Unary "unary" [Operand] "an operator before its operand";
    Update "update" [Operand] "adds one to its operand, or takes one away";
    Sequence "sequence" [Element] "expressions of which the last gives the value";
    New "new" [Callee TypeArguments Arguments] "makes an object by its class";
    ImportCall "import-call" [Arguments] "an import that runs when it is met";
    MetaProperty "meta-property" [] "what a function or module knows of itself, such as `new.target`";
    Cast "cast" [Value Type] "a value with the type that it is taken for";
    NonNull "non-null" [Value] "a value that is said to be there";
    Instantiation "instantiation" [Value TypeArguments] "a generic value with its type arguments";
    Await "await" [Value] "waits for a value";
    Yield "yield" [Value] "yields a value of a generator";
    YieldFrom "yield-from" [Value] "yields every value of another generator";
    Spread "spread" [Value] "a value spread out with a star, or a target that takes the rest";
    Call "call" [Callee TypeArguments Arguments] "a call";
    Arguments "arguments" [Argument] "the arguments of a call or the bases of a class, with their parentheses";
    KeywordArgument "keyword-argument" [Name Value] "an argument given by name";
    Member "member" [Object Name] "a member of a value, reached with a dot";
    Subscript "subscript" [Object Index] "an element of a value, reached with brackets";
    Slice "slice" [Lower Upper Step] "a range of elements";

    Element "element" [Start Child End] "a tag with what is between it and its end";
    StartTag "start-tag" [Name TypeArguments Attribute] "the tag that begins an element";
    EndTag "end-tag" [Name] "the tag that ends an element";
    TagName "tag-name" [] "the name of an element that the platform knows, or of an attribute";
    Attribute "attribute" [Name Value] "an attribute of an element";
    MarkupText "markup-text" [] "text between tags";

    NamedType "named-type" [Name TypeArguments] "a type by its name";
    PredefinedType "predefined-type" [] "a type of the language itself";
    LiteralType "literal-type" [Value] "the type of one value";
    TypeArguments "type-arguments" [Argument] "types given to something generic";
    ArrayType "array-type" [Element] "an array of some type";
    IndexedType "indexed-type" [Object Index] "the type of a member";
    TupleType "tuple-type" [Element] "a list of types";
    TupleMember "tuple-member" [Name Type] "a type in a tuple, with a name";
    OptionalType "optional-type" [Type] "a type in a tuple that may be absent";
    RestType "rest-type" [Type] "the rest of a tuple";
    UnionType "union-type" [Operand] "one of several types";
    IntersectionType "intersection-type" [Operand] "several types at once";
    FunctionType "function-type" [TypeParameters Parameters Returns] "the type of a function or constructor";
    ObjectType "object-type" [Statement] "the members of a type";
    MappedType "mapped-type" [Parameter Name Type] "a type made by going over keys";
    ConditionalType "conditional-type" [Subject Bound Value Else] "a choice between types";
    InferType "infer-type" [Parameter] "a type that is to be found";
    TypeOperator "type-operator" [Operand] "an operator before a type, such as `keyof`";
    TypeQuery "type-query" [Name TypeArguments] "the type of a value";
    TemplateType "template-type" [Part] "a type of strings that match a template";
    ImportType "import-type" [Argument Name TypeArguments] "a type out of another module";
    GroupType "group-type" [Type] "a type in parentheses";
    TypePredicate "type-predicate" [Name Type] "what a function says of the type of its argument";

    DefaultPattern "default-pattern" [Pattern Default] "a pattern with a value for when there is none";
    CapturePattern "capture-pattern" [Name] "a pattern that binds a name";
    WildcardPattern "wildcard-pattern" [Name] "a pattern that takes anything";
    LiteralPattern "literal-pattern" [Value] "a pattern that compares with a literal";
    ValuePattern "value-pattern" [Value] "a pattern that compares with a dotted name";
    GroupPattern "group-pattern" [Pattern] "a pattern in parentheses";
    SequencePattern "sequence-pattern" [Pattern] "a pattern for the elements of a sequence";
    StarPattern "star-pattern" [Name Pattern] "the rest of a sequence or mapping in a pattern";
    MappingPattern "mapping-pattern" [Element] "a pattern for the entries of a mapping";
    PairPattern "pair-pattern" [Key Name Pattern] "one entry of a mapping pattern";
    ClassPattern "class-pattern" [Callee Pattern] "a pattern for the parts of a class";
    KeywordPattern "keyword-pattern" [Name Pattern] "a part of a class pattern given by name";
    OrPattern "or-pattern" [Pattern] "patterns of which one must fit";
    AsPattern "as-pattern" [Pattern Name] "a pattern that also binds a name";
}

impl Kind {
    /// Whether a node of this kind is a statement.
    pub fn is_statement(self) -> bool {
        matches!(
            self,
            Kind::Function
                | Kind::Class
                | Kind::If
                | Kind::While
                | Kind::DoWhile
                | Kind::Interface
                | Kind::Enum
                | Kind::Namespace
                | Kind::Labeled
                | Kind::Export
                | Kind::Field
                | Kind::StaticBlock
                | Kind::IndexSignature
                | Kind::For
                | Kind::Try
                | Kind::With
                | Kind::Match
                | Kind::Redirected
                | Kind::Pipeline
                | Kind::Subshell
                | Kind::CommandGroup
                | Kind::ShellTest
                | Kind::Coprocess
        ) || self.is_simple_statement()
    }

    /// Whether a node of this kind is a statement without a block of its own.
    pub fn is_simple_statement(self) -> bool {
        (Kind::Return as u16..=Kind::Import as u16).contains(&(self as u16))
            || (Kind::TypeAlias as u16..=Kind::CompoundAssignment as u16).contains(&(self as u16))
            || matches!(self, Kind::Command | Kind::ImportAssignment)
    }

    /// Whether a node of this kind is a function in the wide sense, with parameters and a body of its own.
    pub fn is_function(self) -> bool {
        matches!(self, Kind::Function | Kind::Lambda)
    }

    /// The kind with this name, if there is one.
    pub fn named(name: &str) -> Option<Kind> {
        Kind::ALL.iter().copied().find(|kind| kind.name() == name)
    }
}

impl fmt::Display for Kind {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.pad(self.name())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_unique_and_found_again() {
        for kind in Kind::ALL {
            assert_eq!(Kind::named(kind.name()), Some(*kind));
        }
    }

    #[test]
    fn statements_are_told_from_their_parts() {
        assert!(Kind::Return.is_statement() && Kind::CompoundAssignment.is_statement() && Kind::Import.is_statement());
        assert!(!Kind::ImportItem.is_statement() && !Kind::Case.is_statement() && !Kind::Name.is_statement());
    }
}
