//! What is about to be pushed, as git tells the hook on its standard input.
//!
//! Each line is `LOCAL-REF LOCAL-ID REMOTE-REF REMOTE-ID` ("pre-push", githooks(5)); an id of zeros represents nothing.

use super::{Git, GitError};

/// One branch or tag that is about to be pushed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Pushed {
    /// Its name, as the other side will have it.
    pub name: String,
    /// The name of the other side.
    pub remote: String,
    /// The commit that is pushed.
    pub commit: String,
    /// A commit whose content the other side has; nothing where everything is new.
    pub known: Option<String>,
}

/// Reads the input of the hook, and finds what each branch is compared with: what the remote has under its name, or, for a new
/// branch, where it left the remote's default branch.
///
/// # Errors
/// When git does not run.
pub fn pushed(git: &Git, remote: &str, input: &str) -> Result<Vec<Pushed>, GitError> {
    let mut found = Vec::new();
    for line in input.lines() {
        let words: Vec<&str> = line.split_whitespace().collect();
        let [_, commit, name, remote_id] = words[..] else { continue };
        let is_nothing = |id: &str| id.bytes().all(|digit| digit == b'0');
        // A branch that is deleted, or a tag of something that is no commit, has nothing to sift.
        let Some(commit) = git.commit(commit)?.filter(|_| !is_nothing(commit)) else { continue };
        let there = if is_nothing(remote_id) { None } else { git.commit(remote_id)? };
        let known = match there {
            Some(known) => Some(known),
            None => git.default_branch(remote)?,
        };
        found.push(Pushed { name: name.to_string(), remote: remote.to_string(), commit, known });
    }
    Ok(found)
}

impl Git {
    /// The commit of a remote's default branch, as far as it was fetched.
    fn default_branch(&self, remote: &str) -> Result<Option<String>, GitError> {
        for name in ["HEAD", "main", "master", "trunk"] {
            if let Some(commit) = self.commit(&format!("refs/remotes/{remote}/{name}"))? {
                return Ok(Some(commit));
            }
        }
        Ok(None)
    }
}
