//! One binary for all tests that read whole corpora or call a reference.

mod hostile;
mod python_corpus;
mod python_messages;
mod python_mutations;
mod python_shapes;
mod random;
mod reference;
mod shape;
mod shell_corpus;
mod shell_hostile;
mod shell_shapes;
