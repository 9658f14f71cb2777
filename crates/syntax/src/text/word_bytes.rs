//! Words in bytes, found with one look at a table for each byte.

/// The bytes that words are made of: letters and digits of ASCII, and more.
#[derive(Debug)]
pub struct WordBytes([bool; 256]);

impl WordBytes {
    /// Letters and digits of ASCII, some other bytes, and, where it is asked for, all that are part of characters beyond ASCII.
    pub const fn with(others: &[u8], beyond_ascii: bool) -> WordBytes {
        let mut holds = [false; 256];
        let mut byte = 0;
        while byte < holds.len() {
            let one = byte as u8;
            holds[byte] = one.is_ascii_alphanumeric() || beyond_ascii && !one.is_ascii();
            byte += 1;
        }
        let mut index = 0;
        while index < others.len() {
            holds[others[index] as usize] = true;
            index += 1;
        }
        WordBytes(holds)
    }

    /// Whether a byte is part of a word.
    #[inline]
    pub fn holds(&self, byte: u8) -> bool {
        self.0[usize::from(byte)]
    }

    /// Does something with each word in some bytes, and with the offset at which it begins.
    #[inline]
    pub fn each<'b>(&self, bytes: &'b [u8], mut act: impl FnMut(usize, &'b [u8])) {
        let mut at = 0;
        while at < bytes.len() {
            if !self.holds(bytes[at]) {
                at += 1;
                continue;
            }
            let start = at;
            while at < bytes.len() && self.holds(bytes[at]) {
                at += 1;
            }
            act(start, &bytes[start..at]);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn words<'s>(bytes: &WordBytes, source: &'s str) -> Vec<(usize, &'s [u8])> {
        let mut found = Vec::new();
        bytes.each(source.as_bytes(), |start, word| found.push((start, word)));
        found
    }

    #[test]
    fn words_are_found_where_they_begin() {
        let ascii = WordBytes::with(b"_", false);
        assert_eq!(words(&ascii, "\"${tide_2}é-quay\""), [(3, &b"tide_2"[..]), (13, b"quay")]);
        assert_eq!(words(&ascii, "tide"), [(0, &b"tide"[..])]);
        assert!(words(&ascii, " é ").is_empty() && words(&ascii, "").is_empty());
        let all = WordBytes::with(b"_$", true);
        assert_eq!(words(&all, "$é-quay"), [(0, "$é".as_bytes()), (4, b"quay")]);
    }
}
