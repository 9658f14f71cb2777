//! The parser against its references, over every source file of the installed packages: verdicts, and what the trees are made of.

use std::collections::BTreeMap;
use std::path::PathBuf;

use serde_json::{Value, json};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::node_reference;
use crate::shape::{assert_kinds, assert_sound};

/// More files of one sort than this are not compared.
const MOST: usize = 4000;

fn agrees(language: Language, endings: &[&str]) {
    if !node_reference::installed() {
        return;
    }
    let all = node_reference::sources(endings);
    let step = all.len().div_ceil(MOST).max(1);
    let files: Vec<PathBuf> = all.into_iter().step_by(step).collect();
    let requests: Vec<Value> = files.iter().map(|path| json!({"path": path})).collect();
    let (mut bytes, mut counted, mut differences) = (0, 0, Vec::new());
    for (path, verdict) in files.iter().zip(node_reference::verdicts(&requests)) {
        let Ok(text) = language.decode(std::fs::read(path).expect("a file")) else { continue };
        let tree = language.parse(&text);
        assert_sound(&tree, text.source());
        assert_kinds(language, &tree);
        bytes += text.source().len();
        let shown = path.display();
        let accepted = verdict["accepted"] == true;
        if let Some(fault) = tree.faults().first().filter(|_| accepted) {
            let line = text.place(fault.span.start).line;
            differences.push(format!("{shown}:{line}: accepted there, here: {}", fault.problem));
        } else if tree.faults().is_empty() && !accepted {
            differences.push(format!("{shown}: refused there: {}", verdict["message"]));
        } else if let Some(kinds) = verdict["kinds"].as_object().filter(|_| tree.faults().is_empty()) {
            counted += 1;
            let theirs = |name: &str| kinds.get(name).and_then(Value::as_u64).unwrap_or(0);
            differences.extend(count_differences(&tree, theirs).map(|difference| format!("{shown}: {difference}")));
        }
    }
    eprintln!("{} files, {bytes} bytes compared, {counted} of them by what they are made of", files.len());
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

#[test]
fn javascript_agrees_with_its_references() {
    agrees(Language::JavaScript, &["js", "mjs", "cjs", "jsx"]);
}

#[test]
fn typescript_agrees_with_its_reference() {
    agrees(Language::TypeScript, &["ts", "mts", "cts"]);
}

#[test]
fn typescript_with_tags_agrees_with_its_reference() {
    agrees(Language::Tsx, &["tsx"]);
}

/// The kinds here that together are as many as the kinds there.
const SAME: &[(&[Kind], &[&str])] = &[
    (
        &[Kind::Function],
        &[
            "FunctionDeclaration",
            "MethodDeclaration",
            "Constructor",
            "GetAccessor",
            "SetAccessor",
            "MethodSignature",
            "CallSignature",
            "ConstructSignature",
        ],
    ),
    (&[Kind::Lambda], &["ArrowFunction", "FunctionExpression"]),
    (&[Kind::Class], &["ClassDeclaration"]),
    (&[Kind::ClassExpression], &["ClassExpression"]),
    (&[Kind::Call, Kind::ImportCall], &["CallExpression", "ExternalModuleReference"]),
    (&[Kind::New], &["NewExpression"]),
    (&[Kind::Member], &["PropertyAccessExpression", "QualifiedName"]),
    (&[Kind::Subscript], &["ElementAccessExpression"]),
    (&[Kind::Conditional], &["ConditionalExpression"]),
    (&[Kind::Return], &["ReturnStatement"]),
    (&[Kind::If], &["IfStatement"]),
    (&[Kind::For], &["ForStatement", "ForInStatement", "ForOfStatement"]),
    (&[Kind::While], &["WhileStatement"]),
    (&[Kind::DoWhile], &["DoStatement"]),
    (&[Kind::Match], &["SwitchStatement"]),
    (&[Kind::Case], &["CaseClause", "DefaultClause"]),
    (&[Kind::Throw], &["ThrowStatement"]),
    (&[Kind::Try], &["TryStatement"]),
    (&[Kind::Catch], &["CatchClause"]),
    (&[Kind::Labeled], &["LabeledStatement"]),
    (&[Kind::ExpressionStatement], &["ExpressionStatement"]),
    (&[Kind::Pass], &["EmptyStatement"]),
    (&[Kind::Import], &["ImportDeclaration"]),
    (&[Kind::ImportItem], &["ImportSpecifier"]),
    (&[Kind::ExportItem], &["ExportSpecifier"]),
    (&[Kind::Interface], &["InterfaceDeclaration"]),
    (&[Kind::Enum], &["EnumDeclaration"]),
    (&[Kind::EnumMember], &["EnumMember"]),
    (&[Kind::TypeAlias], &["TypeAliasDeclaration"]),
    (&[Kind::UnionType], &["UnionType"]),
    (&[Kind::IntersectionType], &["IntersectionType"]),
    (&[Kind::ArrayType], &["ArrayType"]),
    (&[Kind::TupleType], &["TupleType"]),
    (&[Kind::TupleMember], &["NamedTupleMember"]),
    (&[Kind::ConditionalType], &["ConditionalType"]),
    (&[Kind::MappedType], &["MappedType"]),
    (&[Kind::FunctionType], &["FunctionType", "ConstructorType"]),
    (&[Kind::ObjectType], &["TypeLiteral"]),
    (&[Kind::TypeQuery], &["TypeQuery"]),
    (&[Kind::TypeOperator], &["TypeOperator"]),
    (&[Kind::IndexedType], &["IndexedAccessType"]),
    (&[Kind::GroupType], &["ParenthesizedType"]),
    (&[Kind::ImportType], &["ImportType"]),
    (&[Kind::TypePredicate], &["TypePredicate"]),
    // A template without interpolations is a literal there.
    (&[Kind::LiteralType, Kind::TemplateType], &["LiteralType", "TemplateLiteralType"]),
    (&[Kind::InferType], &["InferType"]),
    (&[Kind::IndexSignature], &["IndexSignature"]),
    (&[Kind::TypeParameter], &["TypeParameter"]),
    (&[Kind::Cast], &["AsExpression", "SatisfiesExpression", "TypeAssertionExpression"]),
    (&[Kind::NonNull], &["NonNullExpression"]),
    (&[Kind::RegularExpression], &["RegularExpressionLiteral"]),
    (&[Kind::TaggedTemplate], &["TaggedTemplateExpression"]),
    (&[Kind::Number], &["NumericLiteral", "BigIntLiteral"]),
    (&[Kind::List], &["ArrayLiteralExpression"]),
    (&[Kind::Dictionary], &["ObjectLiteralExpression", "ImportAttributes"]),
    (&[Kind::Pair], &["PropertyAssignment", "ImportAttribute"]),
    (&[Kind::ShorthandPair], &["ShorthandPropertyAssignment"]),
    (&[Kind::Field], &["PropertyDeclaration", "PropertySignature"]),
    (&[Kind::StaticBlock], &["ClassStaticBlockDeclaration"]),
    (&[Kind::Parameter], &["Parameter"]),
    (&[Kind::MappingPattern], &["ObjectBindingPattern"]),
    (&[Kind::SequencePattern], &["ArrayBindingPattern"]),
    (&[Kind::Decorator], &["Decorator"]),
    (&[Kind::Element], &["JsxElement", "JsxSelfClosingElement", "JsxFragment"]),
    (&[Kind::Attribute], &["JsxAttribute"]),
    (&[Kind::MarkupText], &["JsxText"]),
    (&[Kind::Interpolation], &["TemplateSpan", "TemplateLiteralTypeSpan", "JsxExpression"]),
    (&[Kind::Await], &["AwaitExpression"]),
    (&[Kind::Yield, Kind::YieldFrom], &["YieldExpression"]),
    (&[Kind::Group], &["ParenthesizedExpression"]),
    (&[Kind::MetaProperty], &["MetaProperty"]),
];

/// What is not the same number here and there.
fn count_differences<'a>(tree: &Tree, theirs: impl Fn(&str) -> u64 + 'a) -> impl Iterator<Item = String> + 'a {
    let mut ours: BTreeMap<Kind, u64> = BTreeMap::new();
    let (mut operators, mut declared) = (0, 0);
    for node in tree.nodes() {
        *ours.entry(node.kind()).or_default() += 1;
        operators += operators_of(node);
        declared +=
            u64::from(node.role() == Role::Item && matches!(node.kind(), Kind::Assignment | Kind::AnnotatedAssignment));
    }
    let of = move |kind: &Kind| ours.get(kind).copied().unwrap_or(0);
    let binary = theirs("BinaryExpression");
    let variables = theirs("VariableDeclaration");
    let caught = tree.nodes().filter(|node| node.kind() == Kind::Catch && has_binding(*node)).count() as u64;
    let sums = [("operators", operators, binary), ("declarations", declared + caught, variables)];
    let sums = sums.into_iter().filter(|(_, here, there)| here != there);
    let sums: Vec<String> = sums.map(|(what, here, there)| format!("{what}: {here} here, {there} there")).collect();
    let same = SAME.iter().filter_map(move |(kinds, names)| {
        let here: u64 = kinds.iter().map(&of).sum();
        let there: u64 = names.iter().map(|name| theirs(name)).sum();
        (here != there).then(|| format!("{}: {here} here, {there} there", kinds[0]))
    });
    same.chain(sums)
}

fn has_binding(catch: NodeRef) -> bool {
    catch.child(Role::Name).or_else(|| catch.child(Role::Pattern)).is_some()
}

/// How many operators between two operands a node has; there each is a node.
fn operators_of(node: NodeRef) -> u64 {
    let parts = node.children().count() as u64;
    match node.kind() {
        Kind::Binary | Kind::Comparison | Kind::CompoundAssignment => 1,
        Kind::Assignment => u64::from(node.role() != Role::Item),
        Kind::Logical | Kind::Sequence => parts - 1,
        _ => 0,
    }
}
