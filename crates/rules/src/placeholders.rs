//! Placeholders in format strings: how many values a string wants, in each form that libraries know.

use crate::interface::PlaceholderForm;

/// How many values a format string wants; nothing where that is not known, or the string is wrong.
pub(crate) fn places(form: PlaceholderForm, text: &str) -> Option<usize> {
    match form {
        PlaceholderForm::Braces => in_braces(text),
        PlaceholderForm::PercentWithDollar | PlaceholderForm::PercentWithBrackets => after_percent(form, text),
    }
}

/// `{0}`, `{1,8:N2}` ("Composite formatting" of .NET).
fn in_braces(text: &str) -> Option<usize> {
    let index = |field: &str| field.split([',', ':']).next()?.trim().parse::<usize>().ok()?.checked_add(1);
    fields(text)?.into_iter().try_fold(0, |highest, field| Some(index(field)?.max(highest)))
}

/// What is in the braces of a format string, doubled ones apart; nothing where some are not closed, or within others.
fn fields(text: &str) -> Option<Vec<&str>> {
    let mut fields = Vec::new();
    let mut rest = text;
    while let Some(at) = rest.find(['{', '}']) {
        let sign = &rest[at..=at];
        rest = &rest[at + 1..];
        if let Some(behind) = rest.strip_prefix(sign) {
            rest = behind;
            continue;
        }
        let (field, behind) = rest.split_once('}').filter(|(field, _)| sign == "{" && !field.contains('{'))?;
        fields.push(field);
        rest = behind;
    }
    Some(fields)
}

/// `%s`, `%2$-8.3f` (`java.util.Formatter`), `%[2]*d` (package `fmt` of Go).
fn after_percent(form: PlaceholderForm, text: &str) -> Option<usize> {
    let has_dollar = form == PlaceholderForm::PercentWithDollar;
    let (mut next, mut highest) = (0, 0);
    let mut rest = text;
    while let Some(at) = rest.find('%') {
        rest = &rest[at + 1..];
        // Several places for one value, or a width that is a value with a place of its own.
        let index = if has_dollar { dollar(&mut rest) } else { bracket(&mut rest) };
        let end = rest.find(|letter: char| !(letter.is_ascii_digit() || "#-+ .,(<*".contains(letter)))?;
        let (options, behind) = rest.split_at(end);
        let mut letters = behind.chars();
        let letter = letters.next()?;
        if letter == '[' || index.is_some() && options.contains('*') {
            return None;
        }
        if has_dollar && matches!(letter, 't' | 'T') {
            letters.next()?;
        }
        rest = letters.as_str();
        next += options.matches('*').count();
        highest = highest.max(next);
        let takes_none = letter == '%' || has_dollar && (letter == 'n' || options.contains('<'));
        if takes_none {
            continue;
        }
        if !letter.is_ascii_alphabetic() {
            return None;
        }
        match index {
            // Those without an index go on behind it in Go, and by themselves in Java.
            Some(index) if has_dollar => highest = highest.max(index),
            Some(index) => next = index,
            None => next += 1,
        }
        highest = highest.max(next);
    }
    Some(highest)
}

/// Takes `2$` from the beginning of a string.
fn dollar(rest: &mut &str) -> Option<usize> {
    let end = rest.find(|letter: char| !letter.is_ascii_digit())?;
    let behind = rest[end..].strip_prefix('$')?;
    let index = rest[..end].parse().ok()?;
    *rest = behind;
    Some(index)
}

/// Takes `[2]` from the beginning of a string, or from behind the flags.
fn bracket(rest: &mut &str) -> Option<usize> {
    let flags = rest.find(|letter: char| !"#-+ 0".contains(letter))?;
    let (index, behind) = rest[flags..].strip_prefix('[')?.split_once(']')?;
    let index = index.parse().ok()?;
    *rest = behind;
    Some(index)
}

/// The placeholders of a string for the operator `%` of Python; nothing where they have names, or the string is wrong.
pub(crate) fn percent_places(text: &str) -> Option<usize> {
    let mut places = 0;
    let mut rest = text;
    while let Some(at) = rest.find('%') {
        rest = &rest[at + 1..];
        if let Some(behind) = rest.strip_prefix('%') {
            rest = behind;
            continue;
        }
        let end = rest.find(|letter: char| !(letter.is_ascii_digit() || "#-+ .*hlL".contains(letter)))?;
        places += 1 + rest[..end].matches('*').count();
        if !rest[end..].starts_with(|letter: char| "diouxXeEfFgGcrsa".contains(letter)) {
            return None;
        }
        rest = &rest[end + 1..];
    }
    Some(places)
}

/// The names that the method `format` of Python needs.
pub(crate) fn format_names(text: &str) -> Vec<&str> {
    let fields = text.split('{').skip(1).filter_map(|field| field.split_once('}')).map(|(field, _)| field);
    let names = fields.map(|field| field.split([':', '!', '.', '[']).next().unwrap_or_default());
    let is_name = |name: &&str| name.starts_with(|first: char| first == '_' || first.is_alphabetic());
    if text.contains("{{") { Vec::new() } else { names.filter(is_name).collect() }
}

/// How many values by position the method `format` of Python needs; nothing where the string is wrong.
pub(crate) fn format_places(text: &str) -> Option<usize> {
    let (mut automatic, mut highest) = (0, 0);
    for field in fields(text)? {
        let name = field.split([':', '!']).next().unwrap_or_default().split(['.', '[']).next().unwrap_or_default();
        match (name.is_empty(), name.parse::<usize>()) {
            (true, _) => automatic += 1,
            (false, Ok(index)) => highest = highest.max(index.saturating_add(1)),
            (false, Err(_)) => {}
        }
    }
    Some(automatic.max(highest))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn braces_are_counted_by_the_highest_index() {
        let places = |text| places(PlaceholderForm::Braces, text);
        assert_eq!([places("low"), places("{0} {1,-8:N2} {0}"), places("{{0}}")], [Some(0), Some(2), Some(0)]);
        assert_eq!([places("{name}"), places("{0"), places("}"), places("{}")], [None; 4]);
    }

    #[test]
    fn values_after_percent_signs() {
        let dollar = |text| places(PlaceholderForm::PercentWithDollar, text);
        assert_eq!([dollar("100%% %n"), dollar("%s %-8.3f"), dollar("%2$s %1$s")], [Some(0), Some(2), Some(2)]);
        assert_eq!([dollar("%tY-%<tm"), dollar("%1$s %s"), dollar("100 %")], [Some(1), Some(1), None]);
        let bracket = |text| places(PlaceholderForm::PercentWithBrackets, text);
        assert_eq!([bracket("%d%% %v"), bracket("%*d"), bracket("%[2]d %d")], [Some(2), Some(2), Some(3)]);
        assert_eq!(
            [bracket("%[1]d %[1]s"), bracket("%+.2f"), bracket("%[x]d"), bracket("%")],
            [Some(1), Some(1), None, None]
        );
    }
}
