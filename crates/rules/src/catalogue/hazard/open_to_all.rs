use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::blocks::{labels, plain, type_of, value};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "open-to-all",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Hcl],
    fix: None,
    what: "a rule that lets every address of the Internet in",
    why: "Whoever finds the port can try it. What is meant for a few is best open to these alone.",
    silent: "In tests. For the ports of web servers, 80 and 443, and where the ports are not written as numbers. For what goes out. Where addresses come from elsewhere.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[
            Wrong {
                code: "resource \"pier_firewall\" \"north\" {\n  ingress {\n    from_port   = 22\n    to_port     = 22\n    cidr_blocks = [\"0.0.0.0/0\"]\n  }\n}\n",
                at: &["5:20"],
                fixed: None,
            },
            Wrong {
                code: "resource \"pier_security_group_rule\" \"north\" {\n  type             = \"ingress\"\n  from_port        = 0\n  to_port          = 65535\n  ipv6_cidr_blocks = [\"::/0\"]\n}\n",
                at: &["5:23"],
                fixed: None,
            },
        ],
        right: &[
            "resource \"pier_firewall\" \"north\" {\n  ingress {\n    from_port   = 443\n    to_port     = 443\n    cidr_blocks = [\"0.0.0.0/0\"]\n  }\n\n  egress {\n    from_port   = 0\n    to_port     = 0\n    cidr_blocks = [\"0.0.0.0/0\"]\n  }\n\n  ingress {\n    from_port   = 22\n    to_port     = 22\n    cidr_blocks = var.crew\n  }\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::ConfigBlock], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    if file.is_test() || !lets_in(file, block) {
        return;
    }
    let ports: Vec<u32> = PORTS.iter().filter_map(|name| number(file, value(file, block, name)?)).collect();
    if ports.is_empty() || ports.iter().all(|port| matches!(port, 80 | 443)) {
        return;
    }
    for values in SOURCES.iter().filter_map(|name| value(file, block, name)) {
        let single = Some(values).filter(|value| value.kind() == Kind::String);
        let all = values.children().filter(|_| values.kind() == Kind::List).chain(single);
        for address in all.filter(|address| plain(file, *address).is_some_and(|text| EVERYBODY.contains(&&*text))) {
            let message = match ports[..] {
                [port] => format!("everybody may reach port {port}"),
                [from, to, ..] if from == to => format!("everybody may reach port {from}"),
                [from, to, ..] if from < to => format!("everybody may reach the ports {from} to {to}"),
                _ => "everybody may reach every port".to_string(),
            };
            context.report(address.span(), message).advice("name the addresses that need it");
        }
    }
}

/// What names addresses from which something is let in.
const SOURCES: [&str; 6] =
    ["cidr_blocks", "ipv6_cidr_blocks", "cidr_ipv4", "cidr_ipv6", "source_ranges", "source_address_prefix"];

/// What names ports.
const PORTS: [&str; 4] = ["from_port", "to_port", "port", "destination_port_range"];

/// Every address (RFC 4632, RFC 4291).
const EVERYBODY: [&str; 2] = ["0.0.0.0/0", "::/0"];

/// Whether a block says what is let in.
fn lets_in(file: File<'_>, block: NodeRef) -> bool {
    let is = |name: &str, wanted: &str| {
        let word = value(file, block, name).and_then(|value| plain(file, value));
        word.is_some_and(|word| word.eq_ignore_ascii_case(wanted))
    };
    match type_of(file, block) {
        "ingress" => true,
        "resource" => {
            let of = labels(file, block).next().unwrap_or_default();
            of.ends_with("ingress_rule")
                || is("type", "ingress")
                || is("direction", "inbound")
                || is("direction", "ingress")
        }
        _ => false,
    }
}

fn number(file: File<'_>, node: NodeRef) -> Option<u32> {
    file.node_text(node).trim_matches('"').parse().ok()
}
