//! Packs from addresses, from a server of our own.

use std::sync::Arc;

use tiny_http::{Header, Response, Server};

use crate::ferry::Ferry;

const PACK: &str = "pack = \"ferry\"\nversion = \"2.1\"\n[[rule]]\nname = \"no-print\"\nlanguages = [\"python\"]\nfind = 'call { callee refers \"print\" }'\nmessage = \"printed\"\n[[rule.wrong]]\ncode = \"print(1)\\n\"\nat = [\"1:1\"]\n[[rule.right]]\ncode = \"x = 1\\n\"\n";

/// A server that goes away when it is dropped.
struct Harbour {
    server: Arc<Server>,
    address: String,
}

impl Harbour {
    /// A server that answers by the path.
    fn open(answer: impl Fn(&str) -> Response<std::io::Cursor<Vec<u8>>> + Send + 'static) -> Harbour {
        let server = Arc::new(Server::http("127.0.0.1:0").expect("a port"));
        let address = format!("http://{}", server.server_addr());
        let serving = Arc::clone(&server);
        std::thread::spawn(move || {
            for request in serving.incoming_requests() {
                let answer = answer(request.url());
                let _ = request.respond(answer);
            }
        });
        Harbour { server, address }
    }

    fn at(&self, path: &str) -> String {
        format!("{}{path}", self.address)
    }
}

impl Drop for Harbour {
    fn drop(&mut self) {
        self.server.unblock();
    }
}

fn body(text: &str) -> Response<std::io::Cursor<Vec<u8>>> {
    Response::from_data(text.as_bytes())
}

fn to(address: &str) -> Response<std::io::Cursor<Vec<u8>>> {
    let location = Header::from_bytes("Location", address).expect("a header");
    Response::from_data(Vec::new()).with_status_code(302).with_header(location)
}

#[test]
fn a_pack_is_tried_then_pinned_then_used_without_the_network() {
    let harbour = Harbour::open(|_| body(PACK));
    let ferry = Ferry::with(&[("desk.py", "print(1)\n")]);
    let address = harbour.at("/ferry.toml");
    let tried = ferry.run(&["sift", "--pack", &address, "--output", "lines"]);
    assert_eq!(tried.status, 1, "{}", tried.err);
    assert_eq!(tried.out, "desk.py:1:1: warning: printed [ferry:no-print]\n");
    let digest = tried.err.split("has the sha-256 ").nth(1).expect("the digest is reported")[..64].to_string();
    let added = ferry.run(&["pack", "add", &address]);
    assert_eq!(added.status, 0, "{}{}", added.out, added.err);
    let pinned = format!("packs = [{{ address = \"{address}\", sha256 = \"{digest}\" }}]\n");
    assert_eq!(ferry.read("sieve.toml"), pinned);
    drop(harbour);
    let used = ferry.run(&["sift", "--output", "lines", "--quiet"]);
    assert_eq!((used.status, used.out), (1, tried.out));
    let list = ferry.run(&["pack", "list"]);
    assert!(
        list.out.contains("ferry") && list.out.contains("2.1, 1 rule") && list.out.contains(&digest),
        "{}",
        list.out
    );
}

#[test]
fn another_body_than_the_pinned_one_is_refused() {
    let harbour = Harbour::open(|_| body(PACK));
    let address = harbour.at("/ferry.toml");
    let ferry = Ferry::with(&[("desk.py", "print(1)\n")]);
    let other = "0".repeat(64);
    ferry.write("sieve.toml", format!("packs = [{{ address = \"{address}\", sha256 = \"{other}\" }}]\n"));
    let refused = ferry.run(&["sift"]);
    assert_eq!(refused.status, 2);
    assert!(refused.err.starts_with("hsieve: sieve.toml:1:10: what is at http://127.0.0.1:"), "{}", refused.err);
    assert!(refused.err.contains("is not what was pinned: its sha-256 is "), "{}", refused.err);
    assert!(refused.err.contains(&format!("`hsieve pack add {address}`")), "{}", refused.err);
    assert_eq!(ferry.run(&["pack", "add", &address]).status, 0);
    assert_eq!(ferry.run(&["sift"]).status, 1, "what is there now took the place of what was pinned");
    assert!(!ferry.read("sieve.toml").contains(&other));
}

#[test]
fn a_copy_that_was_tampered_with_is_not_used() {
    let harbour = Harbour::open(|_| body(PACK));
    let ferry = Ferry::with(&[("desk.py", "print(1)\n")]);
    assert_eq!(ferry.run(&["pack", "add", &harbour.at("/ferry.toml")]).status, 0);
    let kept = ferry.path(".git/kept/cache");
    let copies: Vec<_> =
        walk(&kept).into_iter().filter(|path| path.extension().is_some_and(|end| end == "toml")).collect();
    assert_eq!(copies.len(), 1);
    std::fs::write(&copies[0], PACK.replace("printed", "tampered")).expect("a file");
    let used = ferry.run(&["sift", "--output", "lines", "--quiet"]);
    assert_eq!(used.out, "desk.py:1:1: warning: printed [ferry:no-print]\n");
    drop(harbour);
    std::fs::write(&copies[0], PACK.replace("printed", "tampered")).expect("a file");
    let refused = ferry.run(&["sift", "--output", "lines", "--quiet"]);
    assert_eq!(refused.status, 2, "{}", refused.out);
}

fn walk(folder: &std::path::Path) -> Vec<std::path::PathBuf> {
    let entries = std::fs::read_dir(folder).expect("a folder").map(|entry| entry.expect("an entry").path());
    entries.flat_map(|path| if path.is_dir() { walk(&path) } else { vec![path] }).collect()
}

#[test]
fn servers_that_do_not_hand_out_a_pack_are_told_of() {
    let large = "#".repeat(2 << 20);
    let harbour = Harbour::open(move |path| match path {
        "/large" => body(&large),
        "/gone" => Response::from_data(Vec::new()).with_status_code(404),
        "/file" => to("file:///etc/passwd"),
        "/round" => to("/round"),
        "/moved" => to("/ferry.toml"),
        "/latin" => Response::from_data(b"pack = \"\xff\"\n".to_vec()),
        "/page" => body("<!doctype html>\n"),
        _ => body(PACK),
    });
    let ferry = Ferry::with(&[("desk.py", "print(1)\n")]);
    for (path, expected) in [
        ("/large", "it is larger than 1024 KB"),
        ("/gone", "the server answers with status 404"),
        ("/round", "the server leads on more than 5 times"),
        ("/file", "the server leads to \"file:///etc/passwd\", which is no address of a pack"),
        ("/latin", "it is not UTF-8"),
        ("/page", "this is not TOML"),
    ] {
        let refused = ferry.run(&["sift", "--pack", &harbour.at(path)]);
        assert_eq!(refused.status, 2, "{path}");
        assert!(refused.err.contains(expected), "{path}: {}", refused.err);
        assert!(refused.out.is_empty());
    }
    assert_eq!(ferry.run(&["sift", "--pack", &harbour.at("/moved")]).status, 1);
    let refused = ferry.run(&["sift", "--pack", "ftp://saltmarsh.example/ferry.toml"]);
    assert!(refused.err.contains("it begins with https:// or http://"), "{}", refused.err);
}

#[test]
fn a_pack_from_an_address_knows_the_parts_of_descriptions() {
    let pack = "pack = \"house\"

[[document]]
name = \"OpenAPI 3.1\"
when = '$[?match($.openapi, \"3[.]1[.].*\")]'
schema = \"built-in/openapi-3.1.yaml\"

[[rule]]
name = \"owned\"
each = \"operation\"
has = '$[\"x-owner\"]'
message = \"nobody owns this\"
";
    let harbour = Harbour::open(move |_| body(pack));
    let ferry = Ferry::with(&[("tides.yaml", "openapi: 3.1.0\npaths:\n  /tides: {get: {x-owner: desk}, put: {}}\n")]);
    let tried = ferry.run(&["sift", "--pack", &harbour.at("/house.toml"), "--only", "house:*", "--output", "lines"]);
    assert_eq!(tried.out, "tides.yaml:3:34: warning: nobody owns this [house:owned]\n", "{}", tried.err);
}
