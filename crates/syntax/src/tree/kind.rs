//! The one table of node kinds, for all languages.
//!
//! A thing that several languages have is one kind. The table says for each kind its name in queries and in
//! `hsieve tree`, the roles its parts have, the grammars that have it, and what it is.

use std::fmt;

use super::Role;

/// What languages are made of: several share a grammar, and some have more than one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Grammar {
    /// Python.
    Python,
    /// ECMAScript.
    Script,
    /// The types of TypeScript.
    Types,
    /// Tags within ECMAScript.
    Tags,
    /// The shell.
    Shell,
    /// JSON.
    Json,
    /// TOML.
    Toml,
    /// YAML.
    Yaml,
    /// CSS.
    Style,
    /// HTML.
    Html,
    /// HCL.
    Hcl,
    /// Go.
    Go,
    /// Rust.
    Rust,
    /// Java.
    Java,
    /// C#.
    CSharp,
}

macro_rules! kinds {
    ($($kind:ident $name:literal [$($role:ident)*] <$($grammar:ident)*> $about:literal;)*) => {
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

            /// The grammars that have it.
            pub fn grammars(self) -> &'static [Grammar] {
                match self { $(Kind::$kind => &[$(Grammar::$grammar,)*],)* }
            }
        }
    };
}

kinds! {
    File "file" [Statement Value Element Child Part] <Python Script Shell Json Toml Yaml Style Html Hcl Go Rust Java CSharp> "a whole source file";
    Error "error" [Part Body Element] <Python Script Shell Json Toml Yaml Style Hcl Go Rust Java CSharp> "tokens that could not be understood";
    Opaque "opaque" [] <Python Script Shell Json Toml Yaml Style Html Hcl Go Rust Java CSharp> "code nested deeper than the limit, not looked into";

    Block "block" [Statement Part] <Python Script Shell Style Hcl Go Rust Java CSharp> "the statements that belong to a compound statement, or what a rule of a style sheet holds";
    Function "function" [Decorator Name TypeParameters Parameters Returns Body Receiver Part Condition Exception Default] <Python Script Shell Go Rust Java CSharp> "a function or method with a name";
    Class "class" [Decorator Name TypeParameters Arguments Body Part Parameters Condition] <Python Script Java CSharp> "a class";
    Decorator "decorator" [Value Arguments Argument] <Python Types Rust Java CSharp> "an expression applied to the function or class below it";
    Heritage "heritage" [Value Type Arguments] <Script Java CSharp> "what a class or interface is built on";
    Field "field" [Decorator Name Type Value Part Item] <Script Go Rust Java CSharp> "a member of a class or of a type that holds a value";
    Property "property" [Decorator Part Type Returns Receiver Name Parameters Body Value] <CSharp> "a member that is read or written by functions of its own";
    Accessor "accessor" [Decorator Part Name Body] <CSharp> "what reads or writes a property";
    AttributeSection "attribute-section" [Label Decorator] <CSharp> "attributes in brackets";
    Delegate "delegate" [Decorator Part Returns Name TypeParameters Parameters Condition] <CSharp> "a type of functions with a name";
    StaticBlock "static-block" [Body Decorator Part] <Script Java> "statements that run when a class is made";
    IndexSignature "index-signature" [Parameter Type] <Types> "the type of the members that a type has under any key";
    Interface "interface" [Name TypeParameters Arguments Body Decorator Part Bound Condition] <Types Rust Java CSharp> "a named type of objects";
    Enum "enum" [Name Body Decorator Part TypeParameters Condition Arguments] <Types Rust Java CSharp> "a type that is a list of named values";
    EnumMember "enum-member" [Name Value Decorator Part Type Arguments Body] <Types Rust Java CSharp> "one named value of an enum";
    Namespace "namespace" [Name Body Decorator Part] <Types Rust Java CSharp> "declarations that share a name, or a module that is described";
    ModuleDirective "module-directive" [Name Argument] <Java> "what a module needs, or gives to others";
    Implementation "implementation" [Decorator Part TypeParameters Bound Type Condition Body] <Rust> "the functions that a type has, perhaps for a trait";
    ExternBlock "extern-block" [Decorator Part Value Body] <Rust> "declarations of what is defined elsewhere";
    MacroDefinition "macro-definition" [Decorator Part Name Parameters Body] <Rust> "a macro";
    Visibility "visibility" [Module] <Rust Java CSharp> "who sees a declaration";
    WhereClause "where-clause" [Part Name Bound] <Rust CSharp> "what must hold of types";
    TypeBound "type-bound" [Decorator TypeParameters Type Bound] <Rust> "what must hold of a type";
    TypeParameters "type-parameters" [Parameter] <Python Types Go Rust Java CSharp> "the bracketed type parameters of a function, class or type alias";
    TypeParameter "type-parameter" [Name Bound Default Decorator Type] <Python Types Go Rust Java CSharp> "one type parameter";
    Parameters "parameters" [Parameter] <Python Script Go Rust Java CSharp> "the parameters of a function";
    Parameter "parameter" [Decorator Name Pattern Type Default Part] <Python Script Go Rust Java CSharp> "one parameter, or a mark among them such as a lone star";
    If "if" [Condition Body Else Start] <Python Script Shell Go Rust Java CSharp> "a choice between blocks; a further condition is an `if` in the role `else`";
    While "while" [Condition Body Else] <Python Script Shell Rust Java CSharp> "a loop that runs while a condition holds";
    DoWhile "do-while" [Body Condition] <Script Java CSharp> "a loop that runs once before it asks its condition";
    For "for" [Target Iterable Start Condition Step Body Else] <Python Script Shell Go Rust Java CSharp> "a loop over the elements of something, or one that counts";
    Try "try" [Body Handler Else Finally Item] <Python Script Java CSharp> "a block with handlers for what it may throw";
    Catch "catch" [Exception Name Pattern Type Body Decorator Part Guard] <Python Script Java CSharp> "a handler of exceptions";
    With "with" [Item Body] <Python Script Java CSharp> "a block that runs with managed resources";
    WithItem "with-item" [Value Target] <Python Script Java CSharp> "one managed resource";
    Match "match" [Subject Case Start Part] <Python Script Shell Go Rust Java CSharp> "a choice by patterns";
    Select "select" [Case] <Go> "a choice by which channel is ready";
    Case "case" [Pattern Guard Body Decorator] <Python Script Shell Go Rust Java CSharp> "one choice of a match";
    Labeled "labeled" [Label Body] <Script Go Rust Java CSharp> "a statement with a label, which others leave or go on with";
    Return "return" [Value Callee Argument Redirection Part] <Python Script Shell Go Rust Java CSharp> "leaves a function";
    Throw "throw" [Exception Cause] <Python Script Java CSharp> "raises an exception";
    Break "break" [Label Callee Argument Redirection Part Value] <Python Script Shell Go Rust Java CSharp> "leaves a loop";
    Continue "continue" [Label Callee Argument Redirection Part] <Python Script Shell Go Rust Java CSharp> "goes on with a loop's next round";
    Goto "goto" [Label Value] <Go CSharp> "goes on at a label";
    Fallthrough "fallthrough" [] <Go> "goes on with the next case";
    Defer "defer" [Value] <Go> "a call that runs when the function is left";
    GoStatement "go-statement" [Value] <Go> "a call that runs beside what comes next";
    Pass "pass" [] <Python Script Go Rust Java CSharp> "a statement that does nothing";
    Debugger "debugger" [] <Script> "a stop for a debugger";
    Declaration "declaration" [Item Decorator Part Else Type] <Script Go Rust Java CSharp> "declares variables";
    Assert "assert" [Condition Message] <Python Java> "states what must hold";
    Delete "delete" [Target] <Python> "unbinds names, members or elements";
    Global "global" [Name] <Python> "names that belong to the module";
    Nonlocal "nonlocal" [Name] <Python> "names that belong to an enclosing function";
    PackageClause "package" [Name Decorator] <Go Java CSharp> "the package that a file belongs to";
    Import "import" [Module Item Argument Decorator Part] <Python Script Go Rust Java CSharp> "imports modules or names of a module";
    ModuleName "module-name" [] <Python> "the dotted name of a module, with leading dots if relative";
    ImportItem "import-item" [Module Name Alias Item] <Python Script Go Rust Java CSharp> "one imported module or name";
    ImportAll "import-all" [Alias] <Python Script Go Rust Java> "the star that imports every public name, perhaps under one name";
    ImportDefault "import-default" [Name] <Script> "the default export of a module";
    ImportAssignment "import-assignment" [Name Value] <Types> "a name for another one, or for a module that is required";
    Export "export" [Decorator Value Item Module Argument Name] <Script> "hands declarations or names out to other modules";
    ExportItem "export-item" [Name Alias] <Script> "one exported name";
    ExportAll "export-all" [Alias] <Script> "the star that re-exports every name of another module";
    TypeAlias "type-alias" [Name TypeParameters Value Decorator Part Bound Condition] <Python Types Go Rust> "a statement that names a type";
    TypeDefinition "type-definition" [Name TypeParameters Type Decorator Part Condition] <Go Rust> "a new type with a name";
    ExpressionStatement "expression-statement" [Value Decorator Part] <Python Script Go Rust Java CSharp> "an expression used as a statement";
    ShortDeclaration "short-declaration" [Target Value] <Go> "declares names by their values";
    Assignment "assignment" [Target Index Value TypeParameters Condition] <Python Script Shell Hcl Go Rust Java CSharp> "binds targets to a value";
    AnnotatedAssignment "annotated-assignment" [Target Type Value TypeParameters Condition] <Python Types Go Rust> "declares the type of a target, perhaps with a value";
    Send "send" [Object Value] <Go> "sends a value through a channel";
    CompoundAssignment "compound-assignment" [Target Value] <Python Script Shell Go Rust Java CSharp> "an assignment that uses the old value, such as `+=`";

    Command "command" [Callee Argument Redirection Part] <Shell> "a simple command of a shell: assignments, a name, arguments, redirections";
    Redirected "redirected" [Body Redirection] <Shell> "a compound command with redirections for all of it";
    Pipeline "pipeline" [Element Part] <Shell> "commands of which each reads what the one before writes";
    Subshell "subshell" [Body] <Shell> "commands that run in a shell of their own";
    CommandGroup "command-group" [Body] <Shell> "commands in braces";
    ShellTest "shell-test" [Condition] <Shell> "a condition in double brackets";
    Coprocess "coprocess" [Name Body] <Shell> "a command that runs beside the shell, joined by pipes";
    HereDocument "here-document" [Part] <Shell Hcl> "the lines that a command reads as its input, and the line that ends them";
    Redirection "redirection" [Target] <Shell> "where a command reads from or writes to";
    Word "word" [Part] <Shell> "a word of a shell: plain, quoted and expanded parts side by side";
    Expansion "expansion" [Name Part] <Shell> "the value of a parameter, perhaps changed on the way";
    CommandSubstitution "command-substitution" [Statement Part] <Shell> "what commands write, in a word";
    ProcessSubstitution "process-substitution" [Statement Part] <Shell> "a file name that commands read from or write to";
    Arithmetic "arithmetic" [Operand Part] <Shell> "arithmetic of a shell";

    Name "name" [] <Python Script Shell Json Toml Style Hcl Go Rust Java CSharp> "a name";
    PropertyName "property-name" [] <Script> "a name that is both key and value of an entry";
    PrivateName "private-name" [] <Script> "the name of a private member";
    ComputedName "computed-name" [Value] <Script> "the name of a member that an expression gives";
    This "this" [] <Script Java CSharp> "the object that a function was called on";
    Super "super" [] <Script Java CSharp> "the class or object behind this one";
    RegularExpression "regular-expression" [] <Script> "a regular expression";
    Number "number" [] <Python Script Shell Json Toml Yaml Style Hcl Go Rust Java CSharp> "a number";
    String "string" [] <Python Script Shell Json Toml Yaml Style Html Hcl Go Rust Java CSharp> "a string literal";
    Character "character" [] <Go Rust Java CSharp> "a character literal";
    Bytes "bytes" [] <Python Rust> "a bytes literal";
    FormatString "format-string" [Part] <Python Script Shell Hcl CSharp> "a string literal with interpolated expressions";
    TemplateString "template-string" [Part] <Python> "a string literal whose interpolated expressions are kept apart";
    TaggedTemplate "tagged-template" [Callee TypeArguments Value] <Script> "a template given to a function";
    Interpolation "interpolation" [Value Conversion Format] <Python Script Hcl CSharp> "an expression within a string, or between tags";
    Conversion "conversion" [] <Python> "the conversion of an interpolation, such as `!r`";
    FormatSpec "format-spec" [Part] <Python CSharp> "the format of an interpolation";
    Concatenation "concatenation" [Part] <Python> "string literals side by side, which are one string";
    Boolean "boolean" [] <Python Script Json Toml Yaml Hcl Rust Java CSharp> "true or false";
    Null "null" [] <Python Script Json Yaml Hcl Java CSharp> "the null value";
    DateTime "date-time" [] <Toml> "a date, a time of day, or both";
    EllipsisLiteral "ellipsis" [] <Python> "the literal `...`";
    Group "group" [Value] <Python Script Shell Style Hcl Go Rust Java CSharp> "an expression in parentheses";
    Tuple "tuple" [Element] <Python Rust CSharp> "a tuple";
    List "list" [Element Part] <Python Script Shell Json Toml Yaml Style Hcl Rust Java CSharp> "a list or array literal";
    RepeatedList "repeated-list" [Element Index] <Rust> "a list of one value many times";
    Set "set" [Element] <Python> "a set literal";
    Dictionary "dictionary" [Element Part] <Python Script Json Toml Yaml Hcl> "a literal that maps keys to values";
    Pair "pair" [Key Value Part Decorator] <Python Script Shell Json Toml Yaml Hcl Go Rust CSharp> "a key with its value";
    Document "document" [Value Part] <Yaml> "a document of a stream";
    Directive "directive" [] <Yaml> "what a document says to its reader, such as the version of the language";
    Anchor "anchor" [] <Yaml> "the name of the node behind it, for aliases";
    Alias "alias" [] <Yaml> "stands for the node with an anchor of its name";
    Tag "type-tag" [] <Yaml> "the type of the node behind it";
    DottedKey "dotted-key" [Part] <Toml> "keys joined by dots, each in the value of the one before";
    Table "table" [Key Element Part] <Toml> "the header of a table with the entries below it";
    ShorthandPair "shorthand-pair" [Name Default Decorator] <Script Rust> "a name that is key and value at once";
    Query "query" [Clause] <CSharp> "values taken out of others by clauses";
    QueryClause "query-clause" [Type Name Iterable Condition Value Key Left Right] <CSharp> "one step of a query";
    ChangedCopy "changed-copy" [Value Element] <CSharp> "a copy of a value with other values for some members";
    TypeQuestion "type-question" [Type] <CSharp> "what is asked of a type: itself, its size, its first value";
    Comprehension "comprehension" [Element Clause] <Python Hcl> "a list, set, dictionary or generator built by loops";
    ComprehensionClause "comprehension-clause" [Target Iterable Condition] <Python Hcl> "one loop of a comprehension with its conditions";
    Lambda "lambda" [Name TypeParameters Parameters Returns Body] <Python Script Go Rust Java CSharp> "a function written as an expression";
    ClassExpression "class-expression" [Decorator Name TypeParameters Arguments Body] <Script> "a class written as an expression";
    Composite "composite" [Type Element] <Go Rust CSharp> "a literal of a type that holds values, or of one in such a literal";
    Conditional "conditional" [Value Condition Else] <Python Script Hcl Java CSharp> "a choice between two values";
    LetCondition "let-condition" [Pattern Value] <Rust> "whether a value fits a pattern, which binds its names then";
    BlockExpression "block-expression" [Body] <Rust CSharp> "a block with a word before it, such as `unsafe`";
    Attributed "attributed" [Decorator Value] <Rust> "an expression with what is said of it to the compiler";
    NamedExpression "named-expression" [Target Value] <Python> "an expression that also binds a name";
    Logical "logical" [Operand Part] <Python Script Shell Hcl Go Rust Java CSharp> "operands joined by `and` or by `or`";
    Comparison "comparison" [Operand] <Python Script Shell Hcl Go Rust Java CSharp> "two or more operands with comparisons between them";
    Binary "binary" [Left Right] <Python Script Shell Hcl Go Rust Java CSharp> "two operands with an operator between them";
    Unary "unary" [Operand] <Python Script Shell Hcl Go Rust Java CSharp> "an operator before its operand";
    Update "update" [Operand] <Script Shell Go Java CSharp> "adds one to its operand, or takes one away";
    Sequence "sequence" [Element] <Script Shell> "expressions of which the last gives the value";
    New "new" [Callee TypeArguments Arguments Type Index Value Body Decorator Object] <Script Java CSharp> "makes an object by its class";
    ImportCall "import-call" [Arguments] <Script> "an import that runs when it is met";
    MetaProperty "meta-property" [] <Script> "what a function or module knows of itself, such as `new.target`";
    Cast "cast" [Value Type] <Types Go Rust Java CSharp> "a value with the type that it is taken for";
    TypeGuard "type-guard" [Value] <Go> "asks for the type that a value has";
    NonNull "non-null" [Value] <Types CSharp> "a value that is said to be there";
    Instantiation "instantiation" [Value TypeArguments Name] <Types Rust Java CSharp> "a generic value with its type arguments";
    Await "await" [Value] <Python Script Rust CSharp> "waits for a value";
    Propagation "propagation" [Value] <Rust> "the value within another one, or leaves the function without it";
    Yield "yield" [Value] <Python Script Rust Java CSharp> "yields a value of a generator";
    YieldFrom "yield-from" [Value] <Python Script> "yields every value of another generator";
    Spread "spread" [Value Decorator] <Python Script Go Rust CSharp> "a value spread out with a star, or a target that takes the rest";
    Call "call" [Callee TypeArguments Arguments] <Python Script Style Hcl Go Rust Java CSharp> "a call";
    MacroCall "macro-call" [Callee Arguments] <Rust> "a call of a macro";
    TokenTree "token-tree" [] <Rust> "what a macro is given, in brackets: only the macro knows what it means";
    Arguments "arguments" [Argument] <Python Script Style Hcl Go Rust Java CSharp> "the arguments of a call or the bases of a class, with their parentheses";
    KeywordArgument "keyword-argument" [Name Value Bound] <Python Rust Java CSharp> "an argument given by name";
    Member "member" [Object Name TypeArguments] <Python Script Hcl Go Rust Java CSharp> "a member of a value, reached with a dot";
    Subscript "subscript" [Object Index] <Python Script Shell Hcl Go Rust Java CSharp> "an element of a value, reached with brackets";
    Path "path" [Object Name TypeArguments] <Rust Java CSharp> "a name out of a module or a type, behind `::`";
    QualifiedType "qualified-type" [Type Bound] <Rust> "a type as the trait whose names it is asked for";
    Range "range" [Lower Upper] <Rust CSharp> "what lies between two values";
    Slice "slice" [Lower Upper Step] <Python Go> "a range of elements";

    StyleRule "style-rule" [Selector Body] <Style> "selectors with the block of what holds for what they select";
    AtRule "at-rule" [Name Condition Body] <Style> "a rule that a word after `@` begins, such as `@media`";
    AtKeyword "at-keyword" [] <Style> "the word that begins an at-rule, with its `@`";
    Prelude "prelude" [Part] <Style> "what an at-rule is about, between its word and its block";
    StyleDeclaration "style-declaration" [Name Value] <Style> "a property with its value";
    StyleValue "style-value" [Part] <Style> "the value of a property, with the mark of its importance";
    ImportantFlag "important-flag" [] <Style> "`!important` behind a value";
    SelectorList "selector-list" [Element] <Style> "selectors with commas between them";
    Selector "selector" [Part] <Style> "simple selectors side by side, and combinators between them";
    TypeSelector "type-selector" [] <Style> "selects elements by their name, or all by `*`";
    ClassSelector "class-selector" [] <Style> "selects elements by a class, such as `.quay`";
    IdSelector "id-selector" [] <Style> "selects an element by its id, such as `#map`";
    AttributeSelector "attribute-selector" [Name Value] <Style> "selects elements by an attribute";
    PseudoSelector "pseudo-selector" [Name Arguments] <Style> "a pseudo-class or a pseudo-element, such as `:hover`";
    NestingSelector "nesting-selector" [] <Style> "`&`, what the rule around selects";
    Dimension "dimension" [] <Style> "a number with its unit";
    Percentage "percentage" [] <Style> "a number with a percent sign";
    HashValue "hash-value" [] <Style> "`#` with what is behind it: a colour";
    Url "url" [] <Style> "an address without quotes, in `url()`";

    ConfigBlock "config-block" [Name Label Body] <Hcl> "a block of an infrastructure file, with its type and labels";
    Splat "splat" [Object] <Hcl> "every element of a value, reached with a star";
    TemplateDirective "template-directive" [Condition Target Iterable] <Hcl> "a part of a template that steers what is around it, such as `%{ if }`";

    Element "element" [Start Child End] <Tags Html> "a tag with what is between it and its end";
    StartTag "start-tag" [Name TypeArguments Attribute Part] <Tags Html> "the tag that begins an element";
    EndTag "end-tag" [Name Attribute Part] <Tags Html> "the tag that ends an element";
    TagName "tag-name" [] <Tags Html> "the name of an element that the platform knows, or of an attribute";
    Attribute "attribute" [Name Value] <Tags Html> "an attribute of an element";
    MarkupText "markup-text" [] <Tags Html> "text between tags";
    Doctype "doctype" [] <Html> "says that the file is a page, and of which standard";
    RawText "raw-text" [] <Html> "what an element holds in another language, such as a script";
    TemplatePart "template-part" [] <Html> "a part that a template language fills in";

    NamedType "named-type" [Name TypeArguments Decorator] <Types Go Rust Java CSharp> "a type by its name";
    PredefinedType "predefined-type" [Decorator] <Types Rust Java CSharp> "a type of the language itself";
    LiteralType "literal-type" [Value] <Types> "the type of one value";
    TypeArguments "type-arguments" [Argument Returns] <Types Go Rust Java CSharp> "types given to something generic";
    ArrayType "array-type" [Element Index Decorator] <Types Go Rust Java CSharp> "an array of some type";
    MapType "map-type" [Key Value] <Go> "a table from keys to values";
    ChannelType "channel-type" [Element] <Go> "a channel of values";
    PointerType "pointer-type" [Element Part] <Go Rust CSharp> "a pointer to a value";
    TraitType "trait-type" [TypeParameters Bound] <Rust> "any type with some traits";
    Lifetime "lifetime" [] <Rust> "how long a reference holds, or the label of a loop";
    IndexedType "indexed-type" [Object Index] <Types> "the type of a member";
    TupleType "tuple-type" [Element] <Types Rust CSharp> "a list of types";
    TupleMember "tuple-member" [Name Type] <Types CSharp> "a type in a tuple, with a name";
    OptionalType "optional-type" [Type] <Types CSharp> "a type whose value may be absent";
    RestType "rest-type" [Type] <Types Go> "the rest of a tuple";
    UnionType "union-type" [Operand] <Types Go Java> "one of several types";
    WildcardType "wildcard-type" [Decorator Bound] <Java> "any type, perhaps within a limit";
    IntersectionType "intersection-type" [Operand] <Types Java> "several types at once";
    FunctionType "function-type" [TypeParameters Parameters Returns Part] <Types Go Rust CSharp> "the type of a function or constructor";
    ObjectType "object-type" [Statement] <Types Go Rust> "the members of a type";
    InterfaceType "interface-type" [Statement] <Go> "what a type must have";
    MappedType "mapped-type" [Parameter Name Type] <Types> "a type made by going over keys";
    ConditionalType "conditional-type" [Subject Bound Value Else] <Types> "a choice between types";
    InferType "infer-type" [Parameter] <Types Rust> "a type that is to be found";
    TypeOperator "type-operator" [Operand TypeParameters] <Types Go Rust> "an operator before a type, such as `keyof`";
    TypeQuery "type-query" [Name TypeArguments] <Types> "the type of a value";
    TemplateType "template-type" [Part] <Types> "a type of strings that match a template";
    ImportType "import-type" [Argument Name TypeArguments] <Types> "a type out of another module";
    GroupType "group-type" [Type] <Types Go Rust> "a type in parentheses";
    TypePredicate "type-predicate" [Name Type] <Types> "what a function says of the type of its argument";

    DefaultPattern "default-pattern" [Pattern Default] <Script> "a pattern with a value for when there is none";
    CapturePattern "capture-pattern" [Name Pattern Decorator Part Type] <Python Script Rust Java CSharp> "a pattern that binds a name";
    WildcardPattern "wildcard-pattern" [Name] <Python Rust Java CSharp> "a pattern that takes anything";
    LiteralPattern "literal-pattern" [Value] <Python Rust> "a pattern that compares with a literal";
    ValuePattern "value-pattern" [Value] <Python Rust> "a pattern that compares with a dotted name";
    GroupPattern "group-pattern" [Pattern] <Python Rust CSharp> "a pattern in parentheses";
    ReferencePattern "reference-pattern" [Pattern] <Rust> "a pattern for what a reference points to";
    SequencePattern "sequence-pattern" [Pattern Name] <Python Script Rust CSharp> "a pattern for the elements of a sequence";
    StarPattern "star-pattern" [Name Pattern Decorator] <Python Script Rust CSharp> "the rest of a sequence or mapping in a pattern";
    MappingPattern "mapping-pattern" [Element] <Python Script> "a pattern for the entries of a mapping";
    PairPattern "pair-pattern" [Key Name Pattern] <Python Script> "one entry of a mapping pattern";
    ClassPattern "class-pattern" [Callee Pattern Decorator Part Name] <Python Rust Java CSharp> "a pattern for the parts of a class";
    KeywordPattern "keyword-pattern" [Name Pattern Decorator] <Python Rust CSharp> "a part of a class pattern given by name";
    RelationalPattern "relational-pattern" [Value] <CSharp> "a pattern for what is less or greater than a value";
    AndPattern "and-pattern" [Pattern] <CSharp> "patterns that must all fit";
    NotPattern "not-pattern" [Pattern] <CSharp> "a pattern that must not fit";
    OrPattern "or-pattern" [Pattern] <Python Rust CSharp> "patterns of which one must fit";
    AsPattern "as-pattern" [Pattern Name] <Python> "a pattern that also binds a name";
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
                | Kind::Implementation
                | Kind::ExternBlock
                | Kind::ModuleDirective
                | Kind::MacroDefinition
                | Kind::Labeled
                | Kind::Export
                | Kind::Field
                | Kind::StaticBlock
                | Kind::Property
                | Kind::Delegate
                | Kind::IndexSignature
                | Kind::For
                | Kind::Try
                | Kind::With
                | Kind::Match
                | Kind::Select
                | Kind::Redirected
                | Kind::Pipeline
                | Kind::Subshell
                | Kind::CommandGroup
                | Kind::ShellTest
                | Kind::Coprocess
                | Kind::StyleRule
                | Kind::AtRule
                | Kind::ConfigBlock
        ) || self.is_simple_statement()
    }

    /// Whether a node of this kind is a statement without a block of its own.
    pub fn is_simple_statement(self) -> bool {
        (Kind::Return as u16..=Kind::Import as u16).contains(&(self as u16))
            || (Kind::TypeAlias as u16..=Kind::CompoundAssignment as u16).contains(&(self as u16))
            || matches!(self, Kind::Command | Kind::ImportAssignment | Kind::StyleDeclaration)
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
