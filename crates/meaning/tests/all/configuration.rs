//! What infrastructure files declare and refer to, and what their folder says together.

use sieve_meaning::configuration::Configuration;
use sieve_meaning::folder_module::{FileDeclarations, FolderModule, ModuleQuestion};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

fn addresses(source: &str) -> (Vec<String>, Vec<String>) {
    let text = Text::new(source.to_string());
    let tree = Language::Hcl.parse(&text);
    let file = Configuration::of(Language::Hcl, "main.tf", &text, &tree).expect("a file of a module");
    let declared = file.declared.iter().map(|one| one.address.clone()).collect();
    let used = file.used.iter().filter(|one| one.must_exist).map(|one| one.address.clone()).collect();
    (declared, used)
}

fn used(source: &str) -> Vec<String> {
    addresses(source).1
}

fn declarations(path: &str, source: &str) -> FileDeclarations {
    let text = Text::new(source.to_string());
    FileDeclarations::of(Language::Hcl, path, (&text, &Language::Hcl.parse(&text)), None).expect("a file of a module")
}

fn module(files: &[(&str, &str)]) -> Option<FolderModule> {
    let files: Vec<FileDeclarations> = files.iter().map(|(path, source)| declarations(path, source)).collect();
    FolderModule::of(&files)
}

fn lacks(address: &str) -> ModuleQuestion {
    ModuleQuestion::Lacks { folder: String::new(), address: address.to_string() }
}

#[test]
fn each_block_declares_what_its_labels_say() {
    let source = r#"
        variable "lines" {}
        output "depth" { value = 1 }
        locals {
          tide = 1
          low  = 2
        }
        resource "pier_board" "north" {}
        data "tide_table" "south" {}
        ephemeral "pier_key" "night" {}
        module "quay" { source = "./quay" }
        check "open" {
          data "pier_state" "now" {}
        }
        provider "pier" { alias = "east" }
        resource "odd" {}
    "#;
    let declared = addresses(source).0;
    assert_eq!(
        declared,
        [
            "var.lines",
            "output.depth",
            "local.tide",
            "local.low",
            "pier_board.north",
            "data.tide_table.south",
            "ephemeral.pier_key.night",
            "module.quay",
            "data.pier_state.now",
        ]
    );
}

#[test]
fn references_are_found_wherever_they_stand() {
    assert_eq!(used("a = \"x${var.lines}\"\nb = <<END\n${local.tide}\nEND\n"), ["var.lines", "local.tide"]);
    assert_eq!(
        used("a = resource.pier_board.north[0].id + data.tide_table.south.*.low\n"),
        ["pier_board.north", "data.tide_table.south"]
    );
    assert_eq!(
        used("a = module.quay[\"b\"].depth\nb = f(var.a.b.c, [module.tide])\n"),
        ["module.quay", "var.a", "module.tide"]
    );
}

#[test]
fn names_of_other_things_are_no_references() {
    for source in [
        "a = each.value.name + count.index + self.id + path.module + terraform.workspace\n",
        "a = [for tide in [1] : tide.low if tide.high]\n",
        "a = { for name, quay in {} : name.x => quay.depth }\n",
        "r {\n  dynamic \"lamp\" {\n    content {\n      a = lamp.value.colour\n    }\n  }\n}\n",
        "r {\n  dynamic \"lamp\" {\n    iterator = light\n    content {\n      a = light.value.colour\n    }\n  }\n}\n",
        "r {\n  provider = pier.east\n  lifecycle {\n    ignore_changes = [tags.owner]\n  }\n}\n",
        "moved {\n  from = pier_board.old\n  to   = pier_board.new\n}\n",
        "a = plain\nb = provider::pier::depth(1)\n",
    ] {
        assert_eq!(used(source), [""; 0], "{source}");
    }
    assert_eq!(
        used("a = [for tide in var.tides : tide.low]\nb = tide.low\n"),
        ["var.tides", "tide.low"],
        "only within"
    );
}

#[test]
fn a_folder_answers_for_all_its_files() {
    let module = module(&[
        ("main.tf", "a {\n  b = var.lines\n}\n"),
        ("variables.tf", "variable \"lines\" {}\nvariable \"tide\" {\n  default = 1\n  validation {\n    condition = var.tide\n  }\n}\n"),
    ])
    .expect("a module");
    assert_eq!(module.complaint(&lacks("var.lines")), None);
    assert_eq!(module.complaint(&lacks("var.lnies")), Some(vec!["var.lines".to_string()]), "what may be meant");
    assert_eq!(module.complaint(&lacks("var.quay")), Some(Vec::new()));
    assert_eq!(module.complaint(&lacks("local.quay")), None, "it has no local values: they may be elsewhere");
    assert_eq!(module.complaint(&ModuleQuestion::Unused("var.lines".into())), None);
    let own = ModuleQuestion::Unused("var.tide".into());
    assert_eq!(module.complaint(&own), Some(Vec::new()), "its own conditions do not use it");
    let given = |names: &[&str]| ModuleQuestion::NotGiven {
        folder: "./quay".into(),
        given: names.iter().map(|name| (*name).to_string()).collect(),
    };
    assert_eq!(module.complaint(&given(&["tide"])), Some(vec!["lines".to_string()]));
    assert_eq!(module.complaint(&given(&["lines"])), None);
}

#[test]
fn what_is_declared_twice_is_told_but_for_what_overrides() {
    let repeated = ModuleQuestion::Repeated("var.lines".into());
    let complaint = |files: &[(&str, &str)]| module(files).expect("a module").complaint(&repeated);
    let lines = "variable \"lines\" {}\n";
    assert_eq!(complaint(&[("a.tf", lines), ("b.tf", lines)]), Some(Vec::new()));
    assert_eq!(complaint(&[("a.tf", lines), ("b_override.tf", lines), ("override.tf", lines)]), None);
    assert_eq!(complaint(&[("a.tf", lines)]), None);
}

#[test]
fn plain_values_are_known_and_what_overrides_counts() {
    let variable = |value: &str| format!("variable \"lines\" {{\n  default = {value}\n}}\n");
    let value = |files: &[(&str, &str)], address: &str| {
        module(files).expect("a module").complaint(&ModuleQuestion::Value(address.into()))
    };
    let known = |value: &str| Some(vec![value.to_string()]);
    let (two, three) = (variable("2"), variable("\"three\""));
    assert_eq!(value(&[("b.tf", &two), ("a_override.tf", &three)], "var.lines"), known("three"));
    assert_eq!(value(&[("a.tf", &two), ("b.tf", "locals {\n  low = true\n}\n")], "local.low"), known("true"));
    for open in ["[2]", "\"${path.root}\"", "null", "var.other"] {
        assert_eq!(value(&[("a.tf", &variable(open))], "var.lines"), None, "{open}");
    }
    let files = module(&[("variables.tf", &two), ("variables-pier.tf", "")]).expect("a module");
    assert_eq!(files.complaint(&ModuleQuestion::FileNamed("variables".into())), known("variables.tf"));
    assert_eq!(files.complaint(&ModuleQuestion::FileNamed("outputs".into())), None);
}

#[test]
fn a_module_with_a_file_that_is_not_understood_says_nothing() {
    assert!(module(&[("a.tf", "variable \"lines\" {}\n"), ("b.tf", "a = = 1\n")]).is_none());
    assert!(module(&[]).is_none());
    let text = Text::new("a = 1\n".to_string());
    let tree = Language::Hcl.parse(&text);
    assert!(Configuration::of(Language::Hcl, "lines.tfvars", &text, &tree).is_none(), "a folder of these is none");
}

#[test]
fn thousands_of_names_are_read_in_no_time() {
    let many = |form: &dyn Fn(usize) -> String| (0..20_000).map(form).collect::<String>();
    let source = format!(
        "{}locals {{\n{}}}\n",
        many(&|index| format!("variable \"quay{index}\" {{}}\n")),
        many(&|index| format!("  tide{index} = var.quay{index}\n"))
    );
    let module = module(&[("main.tf", &source)]).expect("a module");
    assert!((0..20_000).all(|index| module.complaint(&lacks(&format!("var.quay{index}"))).is_none()));
    assert_eq!(module.complaint(&ModuleQuestion::Unused("var.quay7".into())), None);
    let nested = format!("a = {}1{}\n", "[for a in ".repeat(300), " : a.b]".repeat(300));
    assert_eq!(used(&nested), [""; 0]);
}
