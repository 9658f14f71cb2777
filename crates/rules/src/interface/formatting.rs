//! Functions of libraries that format values, by language.

/// A function that formats values: a format string is followed by them.
#[derive(Debug, Clone, Copy)]
pub struct FormattingCall {
    /// The function as calls have it; what begins with a dot is a method of anything.
    pub name: &'static str,
    /// How its placeholders are written.
    pub form: PlaceholderForm,
    /// What is before the format string, by a word in it, in small letters: a locale, or where the result goes. Without it the string is
    /// first.
    pub behind: &'static [&'static str],
    /// Where no values are given the string is taken as it is.
    pub may_be_plain: bool,
    /// A single value may be all of them in one.
    pub takes_arrays: bool,
}

/// How placeholders are written in a format string.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PlaceholderForm {
    /// `{0}`
    Braces,
    /// `%s`, `%2$s`
    PercentWithDollar,
    /// `%s`, `%[2]s`
    PercentWithBrackets,
}

/// Package `fmt` of Go, and what hands its arguments on to it.
pub(super) const GO: &[FormattingCall] = &{
    const fn of(name: &'static str) -> FormattingCall {
        let form = PlaceholderForm::PercentWithBrackets;
        FormattingCall { name, form, behind: &[], may_be_plain: false, takes_arrays: false }
    }
    // Whatever is first, the string is behind it.
    const fn to(name: &'static str) -> FormattingCall {
        FormattingCall { behind: &[""], ..of(name) }
    }
    [
        of("fmt.Printf"),
        of("fmt.Sprintf"),
        to("fmt.Fprintf"),
        of("fmt.Errorf"),
        of("log.Printf"),
        of("log.Fatalf"),
        of("log.Panicf"),
    ]
};

/// `java.util.Formatter`.
pub(super) const JAVA: &[FormattingCall] = &{
    const fn of(name: &'static str) -> FormattingCall {
        let form = PlaceholderForm::PercentWithDollar;
        FormattingCall { name, form, behind: &["locale"], may_be_plain: false, takes_arrays: true }
    }
    [
        of("String.format"),
        of("System.out.printf"),
        of("System.out.format"),
        of("System.err.printf"),
        of("System.err.format"),
    ]
};

/// What formats values in the library of C#.
pub(super) const CSHARP: &[FormattingCall] = &{
    const fn of(name: &'static str, may_be_plain: bool) -> FormattingCall {
        FormattingCall {
            name,
            form: PlaceholderForm::Braces,
            behind: &["culture", "provider", "formatinfo"],
            may_be_plain,
            takes_arrays: true,
        }
    }
    [
        of("string.Format", false),
        of("String.Format", false),
        of(".AppendFormat", false),
        of("Console.Write", true),
        of("Console.WriteLine", true),
        of("Console.Out.WriteLine", true),
        of("Console.Error.WriteLine", true),
    ]
};
