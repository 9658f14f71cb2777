//! A server that accepts a connection and never answers.

use std::net::TcpListener;
use std::time::Duration;

use sieve_engine::settings::fetch::pack_within;

#[test]
fn a_server_that_never_answers_is_given_up() {
    let listener = TcpListener::bind("127.0.0.1:0").expect("a port");
    let address = format!("http://{}/ferry.toml", listener.local_addr().expect("an address"));
    let error = pack_within(Duration::from_millis(300), &address, None).expect_err("no answer");
    assert_eq!(error.to_string(), format!("{address} cannot be fetched: the server takes longer than 0.3 s"));
}
