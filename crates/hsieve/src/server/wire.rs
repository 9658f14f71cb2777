//! Messages as they travel: JSON-RPC 2.0 with the headers of the Language Server Protocol 3.17, "Base Protocol".

use std::io::{self, BufRead, Read, Write};

use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

/// The longest message that is read, in bytes: a document of some tens of megabytes, and what is around it.
const LONGEST: u64 = 256 << 20;

/// The longest line of a header, in bytes.
const LONGEST_HEADER: u64 = 8 << 10;

/// What tells a request from others: a number or a string.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(untagged)]
pub enum Id {
    /// A number.
    Number(i64),
    /// A string.
    String(String),
}

/// A message from the client.
#[derive(Debug, Clone, PartialEq)]
pub enum Message {
    /// Wants an answer.
    Request {
        /// What the answer is to carry.
        id: Id,
        /// What is asked.
        method: String,
        /// With what.
        params: Value,
    },
    /// Wants none.
    Notification {
        /// What is told.
        method: String,
        /// With what.
        params: Value,
    },
    /// An answer to a request of the server.
    Response {
        /// That of the request.
        id: Id,
        /// What it says; nothing where the client refused.
        result: Option<Value>,
    },
    /// Not understood: why, and the id, if that much was.
    Wrong(Option<Id>, Fault),
}

/// Why a message is refused: a code of JSON-RPC or of the protocol, and words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fault {
    /// The code.
    pub code: i64,
    /// The words.
    pub message: String,
}

impl Fault {
    /// The bytes are no JSON.
    pub const PARSE: i64 = -32700;
    /// The JSON is no message, or comes at the wrong time.
    pub const INVALID_REQUEST: i64 = -32600;
    /// No such method.
    pub const UNKNOWN_METHOD: i64 = -32601;
    /// The parameters are not those of the method.
    pub const INVALID_PARAMS: i64 = -32602;
    /// `initialize` has not come yet.
    pub const NOT_INITIALIZED: i64 = -32002;
    /// The client took the request back.
    pub const CANCELLED: i64 = -32800;
    /// It cannot be done, for reasons that the words say.
    pub const FAILED: i64 = -32803;

    /// A fault.
    pub fn new(code: i64, message: impl Into<String>) -> Fault {
        Fault { code, message: message.into() }
    }
}

#[derive(Deserialize)]
struct Raw {
    id: Option<Id>,
    method: Option<String>,
    #[serde(default)]
    params: Value,
    result: Option<Value>,
    error: Option<Value>,
}

/// Reads one message; nothing at the end of the input.
///
/// # Errors
/// When the input fails, ends in the middle of a message, or announces one that is too long, after which it cannot be known where the
/// next one begins.
pub fn read(input: &mut impl BufRead) -> io::Result<Option<Message>> {
    let Some(length) = read_headers(input)? else { return Ok(None) };
    let mut body = Vec::new();
    input.take(length).read_to_end(&mut body)?;
    if (body.len() as u64) < length {
        return Err(io::ErrorKind::UnexpectedEof.into());
    }
    Ok(Some(message(&body)))
}

/// The length of the body, in bytes.
fn read_headers(input: &mut impl BufRead) -> io::Result<Option<u64>> {
    let mut length = None;
    let mut is_first = true;
    loop {
        let mut line = Vec::new();
        input.take(LONGEST_HEADER).read_until(b'\n', &mut line)?;
        if line.is_empty() && is_first {
            return Ok(None);
        }
        if line.last() != Some(&b'\n') {
            return Err(wrong("a header has no end"));
        }
        is_first = false;
        let line = String::from_utf8_lossy(&line);
        let line = line.trim_end();
        if line.is_empty() {
            return length.map(Some).ok_or_else(|| wrong("no Content-Length"));
        }
        if let Some((name, value)) = line.split_once(':')
            && name.eq_ignore_ascii_case("content-length")
        {
            let bytes = value.trim().parse().ok().filter(|bytes| *bytes <= LONGEST);
            length = Some(bytes.ok_or_else(|| wrong("a Content-Length that is no number, or too large"))?);
        }
    }
}

fn wrong(what: &'static str) -> io::Error {
    io::Error::new(io::ErrorKind::InvalidData, what)
}

/// The message that some bytes are.
fn message(body: &[u8]) -> Message {
    let value: Value = match serde_json::from_slice(body) {
        Ok(value) => value,
        Err(error) => return Message::Wrong(None, Fault::new(Fault::PARSE, error.to_string())),
    };
    let id = value.get("id").and_then(|id| Id::deserialize(id).ok());
    let raw = match Raw::deserialize(value) {
        Ok(raw) => raw,
        Err(error) => return Message::Wrong(id, Fault::new(Fault::INVALID_REQUEST, error.to_string())),
    };
    match (raw.id, raw.method) {
        (Some(id), Some(method)) => Message::Request { id, method, params: raw.params },
        (None, Some(method)) => Message::Notification { method, params: raw.params },
        (Some(id), None) => Message::Response { id, result: raw.result.filter(|_| raw.error.is_none()) },
        (None, None) => Message::Wrong(None, Fault::new(Fault::INVALID_REQUEST, "neither an id nor a method")),
    }
}

/// The form of an answer.
pub fn response(id: Option<&Id>, result: Result<Value, Fault>) -> Value {
    match result {
        Ok(result) => json!({ "jsonrpc": "2.0", "id": id, "result": result }),
        Err(fault) => {
            json!({ "jsonrpc": "2.0", "id": id, "error": { "code": fault.code, "message": fault.message } })
        }
    }
}

/// Writes one message.
///
/// # Errors
/// When the output fails: nobody reads it any more.
pub fn write(output: &mut impl Write, message: &impl Serialize) -> io::Result<()> {
    let body = serde_json::to_vec(message)?;
    write!(output, "Content-Length: {}\r\n\r\n", body.len())?;
    output.write_all(&body)?;
    output.flush()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn all(mut input: &[u8]) -> Vec<Message> {
        std::iter::from_fn(|| read(&mut input).expect("right headers")).collect()
    }

    fn framed(body: &str) -> Vec<u8> {
        format!("Content-Length: {}\r\nContent-Type: x\r\n\r\n{body}", body.len()).into_bytes()
    }

    #[test]
    fn what_is_written_is_read_again() {
        let mut bytes = Vec::new();
        write(&mut bytes, &json!({ "id": "a", "method": "sail", "params": ["über"] })).unwrap();
        write(&mut bytes, &json!({ "method": "moor" })).unwrap();
        write(&mut bytes, &response(Some(&Id::Number(3)), Ok(json!(null)))).unwrap();
        let sail = Message::Request { id: Id::String("a".into()), method: "sail".into(), params: json!(["über"]) };
        let moor = Message::Notification { method: "moor".into(), params: Value::Null };
        assert_eq!(all(&bytes), [sail, moor, Message::Response { id: Id::Number(3), result: None }]);
    }

    #[test]
    fn what_is_no_message_is_refused_and_the_next_one_is_read() {
        let bytes = [framed("{"), framed("{\"id\": 4, \"method\": 5}"), framed("[]"), framed("{\"method\": \"moor\"}")];
        let found = all(&bytes.concat());
        let code = |message: &Message| match message {
            Message::Wrong(id, fault) => (id.clone(), fault.code),
            other => panic!("{other:?}"),
        };
        assert_eq!(code(&found[0]), (None, Fault::PARSE));
        assert_eq!(code(&found[1]), (Some(Id::Number(4)), Fault::INVALID_REQUEST));
        assert_eq!(code(&found[2]), (None, Fault::INVALID_REQUEST));
        assert!(matches!(&found[3], Message::Notification { method, .. } if method == "moor"));
    }

    #[test]
    fn lengths_are_bounded() {
        for input in [
            "Content-Length: 99999999999999\r\n\r\n{}",
            "Content-Length: -1\r\n\r\n{}",
            "Content-Length: 10\r\n\r\n{}",
            "\r\n{}",
            "Content-Length: 2",
            &"x".repeat(1 << 20),
        ] {
            assert!(read(&mut input.as_bytes()).is_err(), "{}", &input[..input.len().min(30)]);
        }
    }
}
