//! One binary for all tests that read whole corpora or call a reference.


mod python_corpus;
mod shape;
mod hostile;
mod reference;
