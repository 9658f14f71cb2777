//! Any bytes become a tree whose tokens are the source again.
#![no_main]

use libfuzzer_sys::fuzz_target;
use sieve_syntax::language::Language;

fuzz_target!(|bytes: &[u8]| {
    let Ok(text) = Language::CSharp.decode(bytes.to_vec()) else { return };
    let tree = Language::CSharp.parse(&text);
    let tokens = (0..tree.tokens().len() as u32).map(|token| text.slice(tree.token_span(token)));
    assert_eq!(tokens.collect::<String>(), text.source());
});
