//! Rules, their examples and their cases, house rules and their queries, and the tables that rules go by.

mod cases;
mod examples;
mod invariance;
mod queries;
mod seeded;
mod shares;
mod tables;
