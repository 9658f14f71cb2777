//! A cache that machines share, on a real web server and on servers that misbehave: whatever it does, runs say the same.

use std::io::{Read, Write};
use std::net::{TcpListener, TcpStream};
use std::path::PathBuf;
use std::process::{Child, Command};

use crate::ferry::{Ended, Ferry, ended, missing};

/// The program of the server.
const NGINX: &str = "nginx";

fn has_server() -> bool {
    Command::new(NGINX).arg("-v").output().is_ok_and(|output| output.status.success())
}

/// A web server that takes files, by WebDAV.
struct Server {
    process: Child,
    folder: tempfile::TempDir,
    port: u16,
}

impl Server {
    fn start() -> Server {
        let folder = tempfile::tempdir().expect("a folder");
        let port = TcpListener::bind("127.0.0.1:0").and_then(|free| free.local_addr()).expect("a port").port();
        Server { process: Server::run(&folder, port), folder, port }
    }

    /// Starts the program, and waits until it answers.
    fn run(folder: &tempfile::TempDir, port: u16) -> Child {
        let at = folder.path().display();
        // The workers of a server that root starts are another user's, but for this line.
        let user = if rustix::process::geteuid().is_root() { "user root;" } else { "" };
        let text = format!(
            "daemon off; {user} worker_processes 2; pid {at}/pid; error_log {at}/errors;\n\
             events {{}}\n\
             http {{\n access_log off; client_body_temp_path {at}/body; proxy_temp_path {at}/p; fastcgi_temp_path {at}/f;\n \
             uwsgi_temp_path {at}/u; scgi_temp_path {at}/s; client_max_body_size 64m;\n \
             server {{ listen 127.0.0.1:{port}; root {at}/kept; location / {{ dav_methods PUT; create_full_put_path on; }} }}\n}}\n"
        );
        std::fs::create_dir_all(folder.path().join("kept")).expect("a folder");
        std::fs::write(folder.path().join("conf"), text).expect("a file");
        let mut process =
            Command::new(NGINX).arg("-c").arg(folder.path().join("conf")).spawn().expect("the server runs");
        while TcpStream::connect(("127.0.0.1", port)).is_err() {
            assert!(process.try_wait().expect("a state").is_none(), "the server ended");
            std::thread::yield_now();
        }
        process
    }

    fn address(&self) -> String {
        format!("http://127.0.0.1:{}/sieve", self.port)
    }

    fn entries(&self) -> Vec<PathBuf> {
        let entries = std::fs::read_dir(self.folder.path().join("kept/sieve")).into_iter().flatten().flatten();
        let mut entries: Vec<PathBuf> = entries.map(|entry| entry.path()).collect();
        entries.sort();
        entries
    }

    fn stop(&mut self) {
        // The first process ends its workers when it is asked to, not when it is killed.
        let pid = rustix::process::Pid::from_child(&self.process);
        let _ = rustix::process::kill_process(pid, rustix::process::Signal::TERM);
        let _ = self.process.wait();
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        self.stop();
    }
}

/// Files that depend on each other, enough of them for several entries, with a cache at an address.
fn ferry(address: &str) -> Ferry {
    let ferry = Ferry::with(&[("fares.py", "import os\n\n\ndef child(age):\n    return age\n")]);
    ferry.write("sieve.toml", format!("mesh = \"fine\"\n\n[cache]\nshared = \"{address}\"\n"));
    for number in 0..130 {
        let text =
            format!("import os\nfrom fares import child\n\n\ndef plan{number}(day):\n    return child({number}, 2)\n");
        ferry.write(&format!("quays/quay{number:03}.py"), text);
    }
    ferry
}

/// Sifts as a machine does that has no results of its own yet; with a form that does not tell what a cache did.
fn sifted(ferry: &Ferry, machine: usize, more: &[&str]) -> Ended {
    let kept = ferry.path(&format!(".git/machine{machine}"));
    let _ = std::fs::remove_dir_all(&kept);
    let mut command = ferry.command(&["sift", "--output", "json", "--held", "--unsure"]);
    ended(command.args(more).env("XDG_CACHE_HOME", kept))
}

/// The account with what was known and shared.
fn account(ferry: &Ferry, more: &[&str]) -> String {
    let kept = ferry.path(".git/machine9");
    let _ = std::fs::remove_dir_all(&kept);
    let mut command = ferry.command(&["sift", "--output", "counts", "--verbose"]);
    let run = ended(command.args(more).env("XDG_CACHE_HOME", kept).env("COLUMNS", "200"));
    let rows = run.out.lines().skip_while(|line| !line.starts_with("  reused")).collect::<Vec<&str>>().join(" ");
    rows.split_whitespace().collect::<Vec<&str>>().join(" ")
}

fn same(ferry: &Ferry, machine: usize, more: &[&str], wanted: &str) {
    let run = sifted(ferry, machine, more);
    assert!((run.status, run.out.as_str(), run.err.as_str()) == (1, wanted, ""), "machine {machine}: {}", run.err);
}

#[test]
fn what_one_machine_found_others_need_not_find_again() {
    if !has_server() {
        return missing(NGINX);
    }
    let mut server = Server::start();
    let ferry = ferry(&server.address());
    let wanted = sifted(&ferry, 0, &["--no-cache"]).out;
    assert!(wanted.contains("child"), "{wanted}");
    same(&ferry, 1, &[], &wanted);
    assert!(server.entries().is_empty(), "nothing is put there unless it is allowed");
    same(&ferry, 2, &["--cache-write"], &wanted);
    let count = server.entries().len();
    assert!((8..40).contains(&count), "{count}");
    for machine in 3..5 {
        same(&ferry, machine, &[], &wanted);
    }
    // Another form wants sizes as well, so that its entries are others.
    let cold = account(&ferry, &["--cache-write"]);
    assert!(cold.contains("reused 0 results of files from earlier runs; 261 worked out now"), "{cold}");
    let warm = account(&ferry, &[]);
    assert!(warm.contains("reused 261 results of files from earlier runs; 0 worked out now"), "{warm}");
    assert!(warm.contains("entries from the shared cache; 0 not there, 0 put there; waited"), "{warm}");
    ferry.write("quays/quay007.py", "import re\n");
    let changed = account(&ferry, &[]);
    assert!(!changed.contains("reused 0 ") && changed.contains(" 2 not there, 0 put there"), "{changed}");
    // Where the code base lies does not matter.
    let elsewhere = self::ferry(&server.address());
    let there = account(&elsewhere, &[]);
    assert!(there.contains(" 0 worked out now"), "{there}");
    server.stop();
    let dead = account(&ferry, &[]);
    assert!(dead.contains("failed; waited") && dead.contains("then given up"), "{dead}");
}

#[test]
fn many_at_once_and_a_server_that_ends_midway_change_nothing() {
    if !has_server() {
        return missing(NGINX);
    }
    let mut server = Server::start();
    let ferry = ferry(&server.address());
    let wanted = sifted(&ferry, 0, &["--no-cache"]).out;
    for round in 0..4 {
        std::thread::scope(|scope| {
            for machine in 1..5 {
                let (ferry, wanted) = (&ferry, &wanted);
                scope.spawn(move || same(ferry, machine, &["--cache-write"], wanted));
            }
            if round == 2 {
                server.stop();
            }
        });
        if round == 2 {
            server.process = Server::run(&server.folder, server.port);
        }
    }
    assert!(account(&ferry, &["--cache-write"]).contains("put there"));
}

#[test]
fn damaged_and_foreign_entries_are_left_aside() {
    if !has_server() {
        return missing(NGINX);
    }
    let server = Server::start();
    let ferry = ferry(&server.address());
    let wanted = sifted(&ferry, 0, &["--no-cache"]).out;
    same(&ferry, 1, &["--cache-write"], &wanted);
    let entries = server.entries();
    let whole: Vec<Vec<u8>> = entries.iter().map(|path| std::fs::read(path).expect("an entry")).collect();
    let damage: [fn(&[u8], &[u8]) -> Vec<u8>; 5] = [
        |own, _| own[..own.len() / 2].to_vec(),
        |own, _| own.iter().enumerate().map(|(at, byte)| if at == own.len() / 2 { byte ^ 1 } else { *byte }).collect(),
        |_, other| other.to_vec(),
        |_, _| b"<html>something else</html>".repeat(50),
        |_, _| Vec::new(),
    ];
    for (round, change) in damage.iter().enumerate() {
        for (place, path) in entries.iter().enumerate() {
            std::fs::write(path, change(&whole[place], &whole[(place + 1) % whole.len()])).expect("an entry");
        }
        same(&ferry, 2 + round, &[], &wanted);
    }
    // Who has another key makes other entries.
    for (path, bytes) in entries.iter().zip(&whole) {
        std::fs::write(path, bytes).expect("an entry");
    }
    let mut command = ferry.command(&["sift", "--output", "counts", "--verbose", "--cache-write"]);
    ended(command.env("XDG_CACHE_HOME", ferry.path(".git/a")).env("HSIEVE_CACHE_KEY", "tide"));
    let other = account(&ferry, &[]);
    assert!(other.contains("refused as damaged or of others"), "{other}");
}

/// A server that does the same with every connection.
fn misbehaving(act: fn(TcpStream)) -> String {
    let listener = TcpListener::bind("127.0.0.1:0").expect("a port");
    let address = format!("http://{}/c", listener.local_addr().expect("an address"));
    std::thread::spawn(move || {
        listener.incoming().flatten().for_each(|stream| drop(std::thread::spawn(move || act(stream))))
    });
    address
}

#[test]
fn servers_that_misbehave_hold_nothing_up() {
    let acts: [(&str, fn(TcpStream)); 5] = [
        ("never answers", |mut stream| drop(stream.read_to_end(&mut Vec::new()))),
        ("hangs up", drop),
        ("answers with a mistake of its own", |stream| answer(stream, "500 Internal Server Error", b"")),
        ("leads elsewhere", |stream| answer(stream, "302 Found\r\nLocation: http://127.0.0.1:1/", b"")),
        ("never ends", |mut stream| {
            let _ = stream.write_all(b"HTTP/1.1 200 OK\r\nContent-Length: 99999999\r\n\r\n");
            while stream.write_all(b"x").is_ok() {
                std::thread::park_timeout(std::time::Duration::from_millis(50));
            }
        }),
    ];
    for (what, act) in acts {
        let ferry = ferry(&misbehaving(act));
        let wanted = sifted(&ferry, 0, &["--no-cache"]).out;
        same(&ferry, 1, &["--cache-write"], &wanted);
        let account = account(&ferry, &["--cache-write"]);
        assert!(account.contains("reused 0 results") && account.contains("then given up"), "{what}: {account}");
    }
}

fn answer(mut stream: TcpStream, status: &str, body: &[u8]) {
    let mut asked = [0; 2000];
    let _ = stream.read(&mut asked);
    let _ = write!(stream, "HTTP/1.1 {status}\r\nConnection: close\r\nContent-Length: {}\r\n\r\n", body.len());
    let _ = stream.write_all(body);
}

#[test]
fn the_server_sees_the_token_and_nothing_is_put_without_leave() {
    let server = tiny_http::Server::http("127.0.0.1:0").expect("a server");
    let address = format!("http://{}/c", server.server_addr().to_ip().expect("an address"));
    let ferry = ferry(&address);
    let asked = |variables: &[(&str, &str)]| {
        let mut seen: Vec<(String, String)> = Vec::new();
        std::thread::scope(|scope| {
            let run = scope.spawn(|| {
                let mut command = ferry.command(&["sift", "--quiet"]);
                command.env("XDG_CACHE_HOME", ferry.path(&format!(".git/m{}", variables.len())));
                ended(command.envs(variables.iter().copied()))
            });
            while !run.is_finished() {
                let wait = std::time::Duration::from_millis(20);
                let Ok(Some(request)) = server.recv_timeout(wait) else { continue };
                let token = request.headers().iter().find(|header| header.field.equiv("Authorization"));
                seen.push((request.method().to_string(), token.map_or(String::new(), |token| token.value.to_string())));
                let _ = request.respond(tiny_http::Response::empty(404));
            }
        });
        seen
    };
    let plain = asked(&[]);
    assert!(!plain.is_empty() && plain.iter().all(|seen| *seen == ("GET".into(), String::new())), "{plain:?}");
    let with = asked(&[("HSIEVE_CACHE_TOKEN", "ebb"), ("HSIEVE_CACHE_WRITE", "1")]);
    assert!(with.iter().all(|(_, token)| token == "Bearer ebb"), "{with:?}");
    assert!(with.iter().any(|(method, _)| method == "PUT"), "{with:?}");
}

#[test]
fn only_an_address_of_a_code_base_is_taken() {
    let ferry = ferry("ftp://saltmarsh.example");
    let run = ferry.run(&["sift"]);
    assert_eq!(run.status, 2);
    assert!(run.err.contains("a shared cache is at an address that begins with https:// or http://"), "{}", run.err);
    ferry.write("sieve.toml", "[cache]\nshare = \"https://saltmarsh.example\"\n");
    let run = ferry.run(&["sift"]);
    assert!(run.err.contains("there is no setting \"cache.share\"") && run.err.contains("shared"), "{}", run.err);
}
