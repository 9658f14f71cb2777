//! Tokens: the smallest pieces of text.

/// One token: where it begins and what it is. It ends where the next one begins.
///
/// Eight bytes: a file holds about one token for every three bytes of its text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Token {
    /// Offset of its first byte.
    pub start: u32,
    /// What it is.
    pub kind: TokenKind,
}

macro_rules! token_kinds {
    ($($kind:ident $text:literal,)*) => {
        /// What a token is, for all languages.
        ///
        /// Trivia come first, so that telling them apart is one comparison.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        #[repr(u16)]
        #[expect(missing_docs, reason = "each is named by its own text below")]
        pub enum TokenKind { $($kind,)* }

        impl TokenKind {
            /// How the token is named in messages: its own text where it always has the same, else a word for it.
            pub fn describe(self) -> &'static str {
                match self { $(TokenKind::$kind => $text,)* }
            }
        }
    };
}

token_kinds! {
    Blank "whitespace",
    LineEnd "a line end",
    LineJoin "a joined line",
    Comment "a comment",
    Elsewhere "what is in another language",
    Directive "a line for the preprocessor",
    LeftOut "what the preprocessor leaves out",
    ByteOrderMark "the byte-order mark",

    Newline "the end of the line",
    Indent "an indented block",
    Dedent "the end of the block",
    EndOfFile "the end of the file",
    Unknown "a character that has no meaning here",

    Name "a name",
    Number "a number",
    String "a string",
    FormatStart "a format string",
    FormatText "text",
    FormatEnd "the end of the format string",

    ParenOpen "'('",
    ParenClose "')'",
    BracketOpen "'['",
    BracketClose "']'",
    BraceOpen "'{'",
    BraceClose "'}'",
    Comma "','",
    Colon "':'",
    Semicolon "';'",
    Dot "'.'",
    Ellipsis "'...'",
    Arrow "'->'",
    Exclamation "'!'",
    Assign "'='",
    ColonAssign "':='",
    At "'@'",
    AtAssign "'@='",
    Plus "'+'",
    PlusAssign "'+='",
    Minus "'-'",
    MinusAssign "'-='",
    Star "'*'",
    StarAssign "'*='",
    StarStar "'**'",
    StarStarAssign "'**='",
    Slash "'/'",
    SlashAssign "'/='",
    SlashSlash "'//'",
    SlashSlashAssign "'//='",
    Percent "'%'",
    PercentAssign "'%='",
    Ampersand "'&'",
    AmpersandAssign "'&='",
    Bar "'|'",
    BarAssign "'|='",
    Caret "'^'",
    CaretAssign "'^='",
    Tilde "'~'",
    ShiftLeft "'<<'",
    ShiftLeftAssign "'<<='",
    ShiftRight "'>>'",
    ShiftRightAssign "'>>='",
    Less "'<'",
    LessEqual "'<='",
    Greater "'>'",
    GreaterEqual "'>='",
    Equal "'=='",
    NotEqual "'!='",

    FatArrow "'=>'",
    Question "'?'",
    QuestionDot "'?.'",
    QuestionQuestion "'??'",
    QuestionQuestionAssign "'??='",
    AndAndAssign "'&&='",
    BarBarAssign "'||='",
    StrictEqual "'==='",
    StrictNotEqual "'!=='",
    ShiftRightZero "'>>>'",
    ShiftRightZeroAssign "'>>>='",
    PlusPlus "'++'",
    MinusMinus "'--'",
    PrivateName "a private name",
    RegularExpression "a regular expression",
    MarkupText "text between tags",
    DateTime "a date or time",
    AtWord "a word after '@'",
    Hash "a name after '#'",
    Url "an address",
    Dimension "a number with a unit",
    Percentage "a percentage",
    Doctype "a doctype",
    RawText "text in another language",
    ChannelArrow "'<-'",
    AmpersandCaret "'&^'",
    AmpersandCaretAssign "'&^='",
    Character "a character in quotes",
    TemplatePart "a part of a template",
    MarkupCommentMark "a mark of a comment between tags",
    PlainScalar "a value without quotes",
    BlockScalar "a block scalar",
    Anchor "an anchor",
    Alias "an alias",
    Tag "a tag",
    DirectiveLine "a directive",
    DocumentStart "'---'",
    DocumentEnd "'...'",

    And "'and'",
    As "'as'",
    Assert "'assert'",
    Async "'async'",
    Await "'await'",
    Break "'break'",
    Class "'class'",
    Continue "'continue'",
    Def "'def'",
    Del "'del'",
    Elif "'elif'",
    Else "'else'",
    Except "'except'",
    False "'False'",
    Finally "'finally'",
    For "'for'",
    From "'from'",
    Global "'global'",
    If "'if'",
    Import "'import'",
    In "'in'",
    Is "'is'",
    Lambda "'lambda'",
    None "'None'",
    Nonlocal "'nonlocal'",
    Not "'not'",
    Or "'or'",
    Pass "'pass'",
    Raise "'raise'",
    Return "'return'",
    True "'True'",
    Try "'try'",
    While "'while'",
    With "'with'",
    Yield "'yield'",

    AndAnd "'&&'",
    BarBar "'||'",
    Backquote "'`'",
    Case "'case'",
    Catch "'catch'",
    Const "'const'",
    Debugger "'debugger'",
    Default "'default'",
    Delete "'delete'",
    Enum "'enum'",
    Export "'export'",
    Extends "'extends'",
    FalseWord "'false'",
    Instanceof "'instanceof'",
    New "'new'",
    NullWord "'null'",
    Super "'super'",
    Switch "'switch'",
    This "'this'",
    Throw "'throw'",
    TrueWord "'true'",
    Typeof "'typeof'",
    Var "'var'",
    Void "'void'",

    Chan "'chan'",
    Defer "'defer'",
    Fallthrough "'fallthrough'",
    Func "'func'",
    GoWord "'go'",
    Goto "'goto'",
    InterfaceWord "'interface'",
    MapWord "'map'",
    Package "'package'",
    Range "'range'",
    Struct "'struct'",
    TypeWord "'type'",

    ColonColon "'::'",
    DotDot "'..'",
    RangeInclusive "'..='",
    Pound "'#'",
    Dollar "'$'",
    Underscore "'_'",
    Lifetime "a lifetime",
    Crate "'crate'",
    Dyn "'dyn'",
    Extern "'extern'",
    Fn "'fn'",
    Impl "'impl'",
    Let "'let'",
    Loop "'loop'",
    MatchWord "'match'",
    Mod "'mod'",
    Move "'move'",
    Mut "'mut'",
    Pub "'pub'",
    Ref "'ref'",
    Reserved "a reserved word",
    SelfType "'Self'",
    SelfWord "'self'",
    StaticWord "'static'",
    Trait "'trait'",
    Unsafe "'unsafe'",
    Use "'use'",
    Where "'where'",

    Modifier "a modifier",
    PrimitiveType "the name of a primitive type",
    Implements "'implements'",
    Throws "'throws'",

    Checked "'checked' or 'unchecked'",
    ConversionWord "'explicit' or 'implicit'",
    Delegate "'delegate'",
    Event "'event'",
    Fixed "'fixed'",
    Foreach "'foreach'",
    Lock "'lock'",
    NamespaceWord "'namespace'",
    OperatorWord "'operator'",
    Out "'out'",
    Params "'params'",
    Sizeof "'sizeof'",
    Stackalloc "'stackalloc'",
    Using "'using'",

    CaseEnd "';;'",
    ConditionClose "']]'",
    ConditionOpen "'[['",
    Coproc "'coproc'",
    Do "'do'",
    DollarBrace "'${'",
    DollarBracket "'$['",
    DollarParen "'$('",
    DollarParens "'$(('",
    Done "'done'",
    Esac "'esac'",
    Fi "'fi'",
    FunctionWord "'function'",
    HereEnd "the end of the here-document",
    HereOperator "'<<'",
    HereText "a here-document",
    ParensClose "'))'",
    ParensOpen "'(('",
    PatternOpen "alternatives",
    ProcessOpen "'<('",
    Redirect "a redirection",
    Select "'select'",
    ShellParameter "a parameter",
    ShellText "a word",
    Then "'then'",
    Time "'time'",
    Until "'until'",
}

impl TokenKind {
    /// Whitespace, comments and line ends without meaning.
    #[inline]
    pub fn is_trivia(self) -> bool {
        self as u16 <= TokenKind::ByteOrderMark as u16
    }

    /// A comment, a line for the preprocessor, or what that leaves out: something beside the code that may decide over it.
    #[inline]
    pub fn is_remark(self) -> bool {
        matches!(self, TokenKind::Comment | TokenKind::Directive | TokenKind::LeftOut)
    }

    /// Tokens that carry the structure of lines and are no text of the program: they never begin or end a node.
    #[inline]
    pub fn is_layout(self) -> bool {
        matches!(self, TokenKind::Newline | TokenKind::Indent | TokenKind::Dedent | TokenKind::EndOfFile)
    }

    /// An assignment by an operator, such as `+=`, in a language in the tradition of C.
    pub fn is_compound_assignment(self) -> bool {
        matches!(
            self,
            TokenKind::PlusAssign
                | TokenKind::MinusAssign
                | TokenKind::StarAssign
                | TokenKind::SlashAssign
                | TokenKind::PercentAssign
                | TokenKind::AmpersandAssign
                | TokenKind::BarAssign
                | TokenKind::CaretAssign
                | TokenKind::ShiftLeftAssign
                | TokenKind::ShiftRightAssign
                | TokenKind::ShiftRightZeroAssign
                | TokenKind::AmpersandCaretAssign
        )
    }

    /// `(`, `[` or `{`.
    #[inline]
    pub fn opens(self) -> bool {
        matches!(self, TokenKind::ParenOpen | TokenKind::BracketOpen | TokenKind::BraceOpen)
    }

    /// `)`, `]` or `}`.
    #[inline]
    pub fn closes(self) -> bool {
        matches!(self, TokenKind::ParenClose | TokenKind::BracketClose | TokenKind::BraceClose)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_token_stays_small() {
        // A file of one megabyte has about 300 000 tokens; at eight bytes they stay in the cache with the text.
        assert_eq!(size_of::<Token>(), 8);
    }

    #[test]
    fn only_the_first_kinds_are_trivia() {
        assert!(TokenKind::Comment.is_trivia());
        assert!(TokenKind::ByteOrderMark.is_trivia());
        assert!(!TokenKind::Newline.is_trivia());
    }
}
