//! Numbers, dates, times and booleans ("Integer", "Float", "Boolean", "Offset Date-Time", TOML 1.0).

/// What a value without quotes and brackets is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Scalar {
    Number,
    DateTime,
    True,
    False,
}

/// What a word is, or why it is none of all.
pub(super) fn of(word: &str) -> Result<Scalar, &'static str> {
    match word {
        "true" => return Ok(Scalar::True),
        "false" => return Ok(Scalar::False),
        _ if is_number(word) => return Ok(Scalar::Number),
        _ if is_date_time(word) => return Ok(Scalar::DateTime),
        _ => {}
    }
    let bytes = word.as_bytes();
    let is_timely = bytes.len() > 4 && bytes[..2].iter().all(u8::is_ascii_digit) && matches!(bytes[4], b'-')
        || bytes.get(2) == Some(&b':');
    Err(if is_timely {
        "there is no such date or time"
    } else if bytes.first().is_some_and(|first| first.is_ascii_digit() || matches!(first, b'+' | b'-' | b'.')) {
        "a number has digits with single underscores between them, no leading zero, and digits around its point"
    } else {
        "a word is no value: a string is in quotes"
    })
}

fn is_number(word: &str) -> bool {
    if let Some(digits) = word.strip_prefix("0x") {
        return are_digits(digits, |byte| byte.is_ascii_hexdigit());
    }
    if let Some(digits) = word.strip_prefix("0o") {
        return are_digits(digits, |byte| matches!(byte, b'0'..=b'7'));
    }
    if let Some(digits) = word.strip_prefix("0b") {
        return are_digits(digits, |byte| matches!(byte, b'0' | b'1'));
    }
    let word = word.strip_prefix(['+', '-']).unwrap_or(word);
    if matches!(word, "inf" | "nan") {
        return true;
    }
    let (mantissa, exponent) = match word.find(['e', 'E']) {
        Some(at) => (&word[..at], Some(&word[at + 1..])),
        None => (word, None),
    };
    let (whole, fraction) = mantissa.split_once('.').map_or((mantissa, None), |(whole, rest)| (whole, Some(rest)));
    let exponent = exponent.map(|digits| digits.strip_prefix(['+', '-']).unwrap_or(digits));
    let decimal = |digits: &str| are_digits(digits, |byte| byte.is_ascii_digit());
    decimal(whole)
        && (whole.len() == 1 || !whole.starts_with('0'))
        && fraction.is_none_or(decimal)
        && exponent.is_none_or(decimal)
}

/// One digit or more, with single underscores between them.
fn are_digits(word: &str, is_digit: impl Fn(u8) -> bool) -> bool {
    let groups = word.as_bytes().split(|byte| *byte == b'_');
    groups.into_iter().all(|group| !group.is_empty() && group.iter().all(|byte| is_digit(*byte)))
}

/// Whether a word is a date alone, so that a time may follow.
pub(super) fn is_date(word: &str) -> bool {
    word.len() == 10 && date(word.as_bytes()).is_some()
}

/// Whether a blank and the first digits of a time come next.
pub(super) fn begins_time(rest: &[u8]) -> bool {
    matches!(rest, [b' ', first, second, b':', ..] if first.is_ascii_digit() && second.is_ascii_digit())
}

/// `offset-date-time`, `local-date-time`, `local-date`, `local-time` (RFC 3339).
fn is_date_time(word: &str) -> bool {
    let bytes = word.as_bytes();
    match date(bytes) {
        Some([]) => true,
        Some([b'T' | b't' | b' ', rest @ ..]) => time(rest).is_some_and(is_offset),
        Some(_) => false,
        None => time(bytes).is_some_and(<[u8]>::is_empty),
    }
}

/// What follows a date that there is.
fn date(bytes: &[u8]) -> Option<&[u8]> {
    let [y1, y2, y3, y4, b'-', m1, m2, b'-', d1, d2, rest @ ..] = bytes else { return None };
    let year = number(&[*y1, *y2, *y3, *y4])?;
    let (month, day) = (number(&[*m1, *m2])?, number(&[*d1, *d2])?);
    let is_leap = year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
    let days = match month {
        1 | 3 | 5 | 7 | 8 | 10 | 12 => 31,
        4 | 6 | 9 | 11 => 30,
        2 => 28 + u32::from(is_leap),
        _ => 0,
    };
    (1..=days).contains(&day).then_some(rest)
}

/// What follows a time of day, fractions of seconds included. A minute may have a leap second.
fn time(bytes: &[u8]) -> Option<&[u8]> {
    let [h1, h2, b':', m1, m2, b':', s1, s2, rest @ ..] = bytes else { return None };
    let is_there = number(&[*h1, *h2])? < 24 && number(&[*m1, *m2])? < 60 && number(&[*s1, *s2])? <= 60;
    let rest = match rest {
        [b'.', fraction @ ..] => {
            let digits = fraction.iter().take_while(|byte| byte.is_ascii_digit()).count();
            fraction.get(digits..).filter(|_| digits > 0)?
        }
        _ => rest,
    };
    is_there.then_some(rest)
}

/// `Z`, `+02:00`, or nothing for a local time.
fn is_offset(bytes: &[u8]) -> bool {
    match bytes {
        [] | [b'Z' | b'z'] => true,
        [b'+' | b'-', h1, h2, b':', m1, m2] => {
            number(&[*h1, *h2]).is_some_and(|hours| hours < 24)
                && number(&[*m1, *m2]).is_some_and(|minutes| minutes < 60)
        }
        _ => false,
    }
}

fn number(digits: &[u8]) -> Option<u32> {
    digits.iter().try_fold(0, |value, digit| digit.is_ascii_digit().then(|| value * 10 + u32::from(digit - b'0')))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_what_the_grammar_says() {
        for number in [
            "0",
            "+99",
            "-17",
            "1_000",
            "0xDEAD_beef",
            "0o755",
            "0b1101",
            "3.14",
            "5e+22",
            "6.6e-34",
            "1e0_6",
            "-inf",
            "nan",
            "-0.0",
        ] {
            assert_eq!(of(number), Ok(Scalar::Number), "{number}");
        }
        for date in [
            "1979-05-27T07:32:00Z",
            "1979-05-27t00:32:00.999-07:00",
            "1979-05-27 07:32:00",
            "2024-02-29",
            "07:32:00.5",
            "23:59:60",
        ] {
            assert_eq!(of(date), Ok(Scalar::DateTime), "{date}");
        }
        for none in [
            "01", "1__0", "_1", "1_", "0x", "+0x1", "0xg", ".5", "5.", "1e", "1.e3", "1_.5", "infinity", "+nan1",
            "yes", "", "0b2", "True",
        ] {
            assert!(of(none).is_err(), "{none}");
        }
        for none in [
            "2023-02-29",
            "1979-13-01",
            "1979-05-27T",
            "1979-05-27T24:00:00",
            "07:32",
            "1979-05-27T07:32:00+25:00",
            "1979-5-27",
            "07:32:00Z",
        ] {
            assert!(of(none).is_err(), "{none}");
        }
    }
}
