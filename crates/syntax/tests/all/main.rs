//! One binary for all tests that read whole corpora or call a reference.

mod data_hostile;
mod hostile;
mod javascript_corpus;
mod javascript_hostile;
mod javascript_messages;
mod javascript_mutations;
mod javascript_shapes;
mod json;
mod messages;
mod node_reference;
mod odd_spaces;
mod python_corpus;
mod python_messages;
mod python_mutations;
mod python_shapes;
mod random;
mod reference;
mod shape;
mod shell_corpus;
mod shell_hostile;
mod shell_messages;
mod shell_shapes;
mod texts;
mod tree_walks;
mod yaml;
mod yaml_events;
