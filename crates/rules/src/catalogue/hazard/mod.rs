//! Rules of the concern `hazard`.

pub(super) mod eval_call;
pub(super) mod floating_source;
pub(super) mod html_by_joining;
pub(super) mod inline_handler;
pub(super) mod javascript_address;
pub(super) mod mixed_content;
pub(super) mod new_window_opener;
pub(super) mod open_to_all;
pub(super) mod pipe_to_shell;
pub(super) mod remove_with_variable;
pub(super) mod secret_in_source;
pub(super) mod shell_with_text;
pub(super) mod sql_by_joining;
pub(super) mod temp_file_by_name;
pub(super) mod unpinned_version;
pub(super) mod unsafe_load;
pub(super) mod weak_digest;
pub(super) mod wide_permission;
