//! Forms of output and where each goes, in the order in which they are given.

use std::path::PathBuf;

use clap::{Arg, ArgAction, ArgMatches, Args, Command, Error, FromArgMatches, value_parser};

/// What is written: `--output FORM`, each perhaps followed by `--to FILE`.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Outputs {
    /// The form, if one is named, and the file, if there is one.
    pub all: Vec<(Option<String>, Option<PathBuf>)>,
}

impl Outputs {
    fn read(matches: &ArgMatches) -> Outputs {
        let places = |name: &str| matches.indices_of(name).into_iter().flatten().collect::<Vec<usize>>();
        let forms = matches.get_many::<String>("output").into_iter().flatten().cloned().map(Some);
        let files = matches.get_many::<PathBuf>("to").into_iter().flatten().cloned().map(Some);
        let forms = places("output").into_iter().zip(forms).map(|(at, form)| (at, (form, None)));
        let files = places("to").into_iter().zip(files).map(|(at, file)| (at, (None, file)));
        let mut given: Vec<(usize, (Option<String>, Option<PathBuf>))> = forms.chain(files).collect();
        given.sort_by_key(|(at, _)| *at);
        let mut all: Vec<(Option<String>, Option<PathBuf>)> = Vec::new();
        for (_, (form, file)) in given {
            match all.last_mut() {
                // A file belongs to the form before it.
                Some((_, place @ None)) if file.is_some() => *place = file,
                _ => all.push((form, file)),
            }
        }
        Outputs { all }
    }
}

impl FromArgMatches for Outputs {
    fn from_arg_matches(matches: &ArgMatches) -> Result<Outputs, Error> {
        Ok(Outputs::read(matches))
    }

    fn update_from_arg_matches(&mut self, matches: &ArgMatches) -> Result<(), Error> {
        *self = Outputs::read(matches);
        Ok(())
    }
}

impl Args for Outputs {
    fn augment_args(command: Command) -> Command {
        command
            .arg(
                Arg::new("output")
                    .long("output")
                    .value_name("FORM")
                    .action(ArgAction::Append)
                    .help("The form of the output: cards, lines, json, jsonl, counts, sarif, junit or markdown; may be given several times"),
            )
            .arg(
                Arg::new("to")
                    .long("to")
                    .value_name("FILE")
                    .action(ArgAction::Append)
                    .value_parser(value_parser!(PathBuf))
                    .help("Write the form named before it to a file"),
            )
    }

    fn augment_args_for_update(command: Command) -> Command {
        Outputs::augment_args(command)
    }
}
