//! What expressions are, and whose members are, in small crates.

use sieve_syntax::tree::{Kind, Role};

use super::lookup::{Access, Owner, World};
use super::types::Type;
use crate::rename::crates::lookup::{Lookup, declared};
use crate::rename::crates::modules::Modules;
use crate::rename::crates::tests::source;
use crate::rename::source::View;

const TIDES: &str = "use std::collections::HashMap;
pub struct Tide { pub depth: Level, pub next: Option<Box<Tide>>, moored: (u8, Level) }
pub struct Level;
pub enum Water { Ebb { tide: Tide }, Flood(Tide, Level) }
pub struct Table<T> { rows: Vec<T>, by_day: HashMap<String, Vec<T>> }
type Days = Table<Tide>;
pub trait Rises { fn level(&self) -> Level; fn same(&self) -> Self; }
impl Tide {
    pub const MOST: Level = Level;
    pub fn new() -> Self { Tide { depth: Level, next: None, moored: (0, Level) } }
    pub fn after(&self) -> Result<&Tide, String> { Ok(self) }
    pub async fn later(&self) -> Tide { Tide::new() }
}
impl Rises for Tide { fn level(&self) -> Level { Level } fn same(&self) -> Self { Tide::new() } }
impl<T> Table<T> {
    pub fn first(&self) -> &T { &self.rows[0] }
    pub fn any<U>(&self, made: U) -> U { made }
}
impl<T> std::ops::Deref for Table<T> { type Target = Vec<T>; fn deref(&self) -> &Vec<T> { &self.rows } }
fn given<T: Rises>(one: T) -> Level { one.level() }
";

fn shown(world: &World<'_, '_>, of: &Type) -> String {
    let all = |types: &[Type]| types.iter().map(|one| shown(world, one)).collect::<Vec<_>>().join(", ");
    let with = |name: &str, types: &[Type]| {
        if types.is_empty() { name.to_string() } else { format!("{name}<{}>", all(types)) }
    };
    match of {
        Type::Own(file, id, arguments) => {
            let view = &world.views()[*file];
            with(view.names.text(view.names.binding(*id).name), arguments)
        }
        Type::Other(name, arguments) => with(name, arguments),
        Type::Tuple(elements) => format!("({})", all(elements)),
        Type::List(element) => format!("[{}]", shown(world, element)),
        Type::Function(result) => format!("-> {}", shown(world, result)),
        Type::Parameter(file, id) => {
            let view = &world.views()[*file];
            format!("'{}", view.names.text(view.names.binding(*id).name))
        }
        Type::Unknown => "unknown".to_string(),
    }
}

/// The types of the last expressions in the functions of a file beside the tides, each as it is shown.
fn types(code: &str) -> Vec<String> {
    let files = [("src/lib.rs", "mod tides;\nmod board;\n"), ("src/tides.rs", TIDES), ("src/board.rs", code)];
    let sources: Vec<_> = files.iter().map(source).collect();
    let views: Vec<View<'_>> = sources.iter().map(View::of).collect();
    let modules = Modules::of(&views, |_| Some("tides".to_string()));
    let lookup = Lookup::new(&views, &modules);
    let world = World::of(&lookup);
    let functions = views[2].file.tree.nodes_of(Kind::Function);
    let last = functions.filter_map(|function| function.child(Role::Body)?.children().last());
    last.map(|expression| shown(&world, &world.type_of(2, expression))).collect()
}

/// The type of one expression, where `tide`, `table` and `all` are known.
fn type_of(expression: &str) -> String {
    let head = "use super::tides::{Days, Level, Rises, Table, Tide, Water};\n";
    let parameters = "tide: &Tide, table: &Table<Tide>, days: Days, water: &Water, all: &[Tide]";
    types(&format!("{head}async fn at({parameters}) {{\n    {expression}\n}}\n")).remove(0)
}

#[test]
fn fields_results_and_elements_have_the_types_that_are_written() {
    for (expression, wanted) in [
        ("tide.depth", "Level"),
        ("tide.moored.1", "Level"),
        ("tide.next", "Option<Box<Tide>>"),
        ("tide.after()?.depth", "Level"),
        ("tide.later().await.depth", "Level"),
        ("Tide::new()", "Tide"),
        ("Tide::MOST", "Level"),
        ("Tide { ..Tide::new() }", "Tide"),
        ("Water::Flood(Tide::new(), Level)", "Water"),
        ("all[0].depth", "Level"),
        ("all[1..]", "[Tide]"),
        ("(tide.depth, &all[0])", "(Level, Tide)"),
        ("if true { tide } else { &all[0] }", "Tide"),
        ("match water { Water::Ebb { tide } => tide, Water::Flood(one, _) => one }", "Tide"),
        ("(*tide).clone()", "Tide"),
        ("tide as &Tide", "Tide"),
        ("unsafe { tide.same() }", "Tide"),
        ("format!(\"{}\", 3)", "String"),
        ("nothing.depth", "unknown"),
        ("tide.nothing", "unknown"),
    ] {
        assert_eq!(type_of(expression), wanted, "{expression}");
    }
}

#[test]
fn arguments_of_types_go_where_their_parameters_are() {
    for (expression, wanted) in [
        ("table.first()", "Tide"),
        ("days.first().depth", "Level"),
        ("table.rows", "Vec<Tide>"),
        ("table.by_day", "HashMap<String, Vec<Tide>>"),
        ("table.any(3)", "unknown"),
        ("table.iter()", "Iterator<Tide>"),
        ("Table::<Level>::first(x)", "Level"),
    ] {
        assert_eq!(type_of(expression), wanted, "{expression}");
    }
}

#[test]
fn the_library_hands_on_what_is_in_its_types() {
    for (expression, wanted) in [
        ("all.iter().map(|one| one.depth).next().unwrap()", "Level"),
        ("all.iter().enumerate().filter(|pair| pair.0 > 1).last()", "Option<(number, Tide)>"),
        ("all.iter().zip(table.rows.iter()).find(|both| true)", "Option<(Tide, Tide)>"),
        ("all.iter().filter_map(|one| one.next.as_ref()).next()", "Option<Box<Tide>>"),
        ("all.iter().flat_map(|_| table.rows.iter()).rev()", "Iterator<Tide>"),
        ("table.by_day.get(\"low\").unwrap().first()", "Option<Tide>"),
        ("table.by_day.values().flatten().max_by_key(|one| one.depth)", "Option<Tide>"),
        ("table.by_day.entry(name).or_default()", "Vec<Tide>"),
        ("table.by_day.iter().map(|(_, rows)| rows.len())", "Iterator<number>"),
        ("tide.next.as_deref().map_or(0, |one| one.depth)", "Level"),
        ("tide.next.as_deref().ok_or(3)?", "Tide"),
        ("std::rc::Rc::new(std::cell::RefCell::new(Tide::new())).borrow().depth", "Level"),
        ("Some(tide).and_then(|one| one.next.clone())", "Option<Box<Tide>>"),
        ("all.iter().collect()", "unknown"),
    ] {
        assert_eq!(type_of(expression), wanted, "{expression}");
    }
}

#[test]
fn patterns_take_types_apart() {
    let head = "use super::tides::{Level, Tide, Water};\n";
    let found = types(&format!(
        "{head}fn one(tide: Tide) {{ let Tide {{ depth, moored: (_, low), .. }} = tide; (depth, low) }}\n\
         fn two(water: &Water) {{ if let Water::Flood(tide, level) = water {{ (tide, level) }} else {{ panic!() }} }}\n\
         fn three(all: Vec<Option<Tide>>) {{ for one in all {{ let Some(tide) = one else {{ return }}; tide; }} }}\n\
         fn four(pair: (Tide, [Level; 3])) {{ let (tide, [first, ..]) = pair; (tide, first) }}\n\
         fn five(tide: Tide) {{ let tide = tide.depth; tide }}\n\
         fn six(tide: &Tide) {{ let ref one = *tide; let &two = one; two }}\n"
    ));
    assert_eq!(found, ["(Level, Level)", "(Tide, Level)", "unknown", "(Tide, Level)", "Level", "Tide"]);
}

#[test]
fn members_are_those_of_types_traits_and_what_is_behind_them() {
    let files = [("src/lib.rs", TIDES)];
    let sources: Vec<_> = files.iter().map(source).collect();
    let views: Vec<View<'_>> = sources.iter().map(View::of).collect();
    let modules = Modules::of(&views, |_| None);
    let lookup = Lookup::new(&views, &modules);
    let world = World::of(&lookup);
    let of = |name: &str| {
        let (id, _) =
            views[0].names.bindings_with_ids().find(|(_, one)| views[0].names.text(one.name) == name).expect("it");
        assert!(declared(&views[0], id).next().is_some());
        Type::Own(0, id, Vec::new())
    };
    let line = |of: &Type, name: &str, access: Access| match world.owner(of, name, access) {
        Owner::Own(member) => format!("{}", views[0].file.text.place(world.node(member).span().start).line),
        Owner::Other => "elsewhere".to_string(),
        Owner::Unknown => "unknown".to_string(),
    };
    let tide = of("Tide");
    assert_eq!(line(&tide, "depth", Access::Field), "2");
    assert_eq!(line(&tide, "after", Access::Associated), "11");
    assert_eq!(line(&tide, "level", Access::Associated), "14", "of the trait");
    assert_eq!(line(&tide, "clone", Access::Associated), "elsewhere");
    assert_eq!(line(&tide, "after", Access::Field), "elsewhere");
    assert_eq!(line(&of("Rises"), "level", Access::Associated), "7");
    assert_eq!(line(&Type::other("Box", vec![tide.clone()]), "depth", Access::Field), "2");
    assert_eq!(line(&Type::other("Vec", vec![tide]), "depth", Access::Field), "elsewhere");
    assert_eq!(line(&Type::Unknown, "depth", Access::Field), "unknown");
    let parameter = views[0].names.bindings_with_ids().filter(|(_, one)| views[0].names.text(one.name) == "T").last();
    let parameter = Type::Parameter(0, parameter.expect("of the last function").0);
    assert_eq!(line(&parameter, "level", Access::Associated), "7", "by its bound");
}
