//! Hard cases of rules: code that only looks like a mistake, and mistakes that hide. A file for each concern.

mod access;
mod access_pages;
mod bench;
mod boundary;
mod clarity;
mod docs;
mod doubts;
mod hazard;
mod layout;
mod leftover;
mod mistake_calls;
mod mistake_components;
mod mistake_conditions;
mod mistake_names;
mod mistake_shell;
mod mistake_slips;
mod naming;
mod pages;
mod portable;
mod withheld;
