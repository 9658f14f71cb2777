//! Rust: over the sources of all packages that this workspace is built from, the verdict and the counts of nodes are those of a general parser
//! of the language.

use std::path::PathBuf;

use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};
use syn::visit::{self, Visit};

use crate::listed::{Counts, below, faults, parsed, unequal};

/// The sources of the packages that this workspace is built from, and its own.
pub fn sources() -> Vec<PathBuf> {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from);
    let home = home.or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo")));
    let packages = home.map(|home| home.join("registry/src"));
    let own = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../crates");
    let mut files = below(packages.into_iter().chain([own]).collect(), &["rs"], "no package is downloaded");
    files.retain(|file| !file.components().any(|part| part.as_os_str() == "node_modules"));
    files
}

/// Counts nodes of the reference by the names that kinds have here.
#[derive(Default)]
struct Counter(Counts);

impl Counter {
    fn add(&mut self, name: &'static str) {
        *self.0.entry(name).or_default() += 1;
    }
}

macro_rules! counts {
    ($($visit:ident $type:ty => $name:literal,)*) => {
        impl<'ast> Visit<'ast> for Counter {
            $(fn $visit(&mut self, node: &'ast $type) {
                self.add($name);
                visit::$visit(self, node);
            })*

            fn visit_expr_method_call(&mut self, node: &'ast syn::ExprMethodCall) {
                self.add("call");
                self.add("member");
                visit::visit_expr_method_call(self, node);
            }

            fn visit_expr_binary(&mut self, node: &'ast syn::ExprBinary) {
                use syn::BinOp;
                self.add(match node.op {
                    BinOp::And(_) | BinOp::Or(_) => "logical",
                    BinOp::Eq(_) | BinOp::Ne(_) | BinOp::Lt(_) | BinOp::Le(_) | BinOp::Gt(_) | BinOp::Ge(_) => "comparison",
                    BinOp::Add(_) | BinOp::Sub(_) | BinOp::Mul(_) | BinOp::Div(_) | BinOp::Rem(_) => "binary",
                    BinOp::BitAnd(_) | BinOp::BitOr(_) | BinOp::BitXor(_) | BinOp::Shl(_) | BinOp::Shr(_) => "binary",
                    _ => "compound-assignment",
                });
                visit::visit_expr_binary(self, node);
            }

            fn visit_item_macro(&mut self, node: &'ast syn::ItemMacro) {
                self.add(if node.ident.is_some() { "macro-definition" } else { "macro-item" });
                visit::visit_item_macro(self, node);
            }

            fn visit_attribute(&mut self, node: &'ast syn::Attribute) {
                // Comments that describe something are attributes there.
                if !node.path().is_ident("doc") {
                    self.add("decorator");
                    visit::visit_attribute(self, node);
                }
            }

            fn visit_lit(&mut self, node: &'ast syn::Lit) {
                let is_negative = match node {
                    syn::Lit::Int(number) => number.base10_digits().starts_with('-'),
                    syn::Lit::Float(number) => number.base10_digits().starts_with('-'),
                    _ => false,
                };
                if is_negative {
                    self.add("unary");
                }
                self.add("literal");
            }

            fn visit_ident(&mut self, node: &'ast proc_macro2::Ident) {
                if node != "_" {
                    self.add("name");
                }
            }

            fn visit_lifetime(&mut self, _: &'ast syn::Lifetime) {
                self.add("lifetime");
            }

            fn visit_token_stream(&mut self, _: &'ast proc_macro2::TokenStream) {
                self.add("unread");
            }

            fn visit_macro(&mut self, node: &'ast syn::Macro) {
                self.add("macro");
                self.visit_path(&node.path);
            }

            fn visit_meta_list(&mut self, node: &'ast syn::MetaList) {
                self.visit_path(&node.path);
            }

            fn visit_use_group(&mut self, node: &'ast syn::UseGroup) {
                // The group itself belongs to an item that is counted.
                for item in &node.items {
                    self.add("import-item");
                    visit::visit_use_tree(self, item);
                }
            }
        }
    };
}

counts! {
    visit_signature syn::Signature => "function",
    visit_item_struct syn::ItemStruct => "type-definition",
    visit_item_union syn::ItemUnion => "type-definition",
    visit_item_enum syn::ItemEnum => "enum",
    visit_variant syn::Variant => "enum-member",
    visit_field syn::Field => "field",
    visit_item_impl syn::ItemImpl => "implementation",
    visit_item_trait syn::ItemTrait => "interface",
    visit_item_trait_alias syn::ItemTraitAlias => "interface",
    visit_item_mod syn::ItemMod => "namespace",
    visit_item_foreign_mod syn::ItemForeignMod => "extern-block",
    visit_item_use syn::ItemUse => "import",
    visit_item_extern_crate syn::ItemExternCrate => "import",
    visit_item_const syn::ItemConst => "declaration",
    visit_item_static syn::ItemStatic => "declaration",
    visit_impl_item_const syn::ImplItemConst => "declaration",
    visit_trait_item_const syn::TraitItemConst => "declaration",
    visit_foreign_item_static syn::ForeignItemStatic => "declaration",
    visit_local syn::Local => "declaration",
    visit_item_type syn::ItemType => "type-alias",
    visit_impl_item_type syn::ImplItemType => "type-alias",
    visit_trait_item_type syn::TraitItemType => "type-alias",
    visit_foreign_item_type syn::ForeignItemType => "type-alias",
    visit_receiver syn::Receiver => "parameter",
    visit_expr_call syn::ExprCall => "call",
    visit_expr_field syn::ExprField => "member",
    visit_expr_await syn::ExprAwait => "await",
    visit_expr_if syn::ExprIf => "if",
    visit_expr_match syn::ExprMatch => "match",
    visit_arm syn::Arm => "case",
    visit_expr_while syn::ExprWhile => "while",
    visit_expr_loop syn::ExprLoop => "while",
    visit_expr_for_loop syn::ExprForLoop => "for",
    visit_expr_closure syn::ExprClosure => "lambda",
    visit_expr_return syn::ExprReturn => "return",
    visit_expr_break syn::ExprBreak => "break",
    visit_expr_continue syn::ExprContinue => "continue",
    visit_expr_yield syn::ExprYield => "yield",
    visit_expr_assign syn::ExprAssign => "assignment",
    visit_expr_unary syn::ExprUnary => "unary",
    visit_expr_reference syn::ExprReference => "unary",
    visit_expr_raw_addr syn::ExprRawAddr => "unary",
    visit_expr_cast syn::ExprCast => "cast",
    visit_expr_try syn::ExprTry => "propagation",
    visit_expr_tuple syn::ExprTuple => "tuple",
    visit_expr_paren syn::ExprParen => "group",
    visit_expr_array syn::ExprArray => "list",
    visit_expr_repeat syn::ExprRepeat => "repeated-list",
    visit_expr_struct syn::ExprStruct => "composite",
    visit_field_value syn::FieldValue => "pair",
    visit_expr_range syn::ExprRange => "range",
    visit_expr_let syn::ExprLet => "let-condition",
    visit_expr_index syn::ExprIndex => "subscript",
    visit_expr_unsafe syn::ExprUnsafe => "block-expression",
    visit_expr_async syn::ExprAsync => "block-expression",
    visit_expr_const syn::ExprConst => "block-expression",
    visit_expr_try_block syn::ExprTryBlock => "block-expression",
    visit_label syn::Label => "labeled",
    visit_generic_param syn::GenericParam => "type-parameter",
    visit_type_reference syn::TypeReference => "pointer-type",
    visit_type_ptr syn::TypePtr => "pointer-type",
    visit_type_tuple syn::TypeTuple => "tuple-type",
    visit_type_paren syn::TypeParen => "group-type",
    visit_type_slice syn::TypeSlice => "array-type",
    visit_type_array syn::TypeArray => "array-type",
    visit_type_fn_ptr syn::TypeFnPtr => "function-type",
    visit_type_trait_object syn::TypeTraitObject => "trait-type",
    visit_type_impl_trait syn::TypeImplTrait => "trait-type",
    visit_type_infer syn::TypeInfer => "infer-type",
    visit_type_never syn::TypeNever => "predefined-type",
    visit_where_predicate syn::WherePredicate => "type-bound",
    visit_precise_capture syn::PreciseCapture => "type-arguments",
    visit_angle_bracketed_generic_arguments syn::AngleBracketedGenericArguments => "type-arguments",
    visit_parenthesized_generic_arguments syn::ParenthesizedGenericArguments => "type-arguments",
    visit_assoc_type syn::AssocType => "keyword-argument",
    visit_assoc_const syn::AssocConst => "keyword-argument",
    visit_constraint syn::Constraint => "keyword-argument",
    visit_pat_tuple syn::PatTuple => "sequence-pattern",
    visit_pat_slice syn::PatSlice => "sequence-pattern",
    visit_pat_struct syn::PatStruct => "class-pattern",
    visit_pat_tuple_struct syn::PatTupleStruct => "class-pattern",
    visit_field_pat syn::FieldPat => "keyword-pattern",
    visit_pat_or syn::PatOr => "or-pattern",
    visit_pat_paren syn::PatParen => "group-pattern",
    visit_pat_reference syn::PatReference => "reference-pattern",
}

/// What the reference makes of a source: the counts, or what is wrong. `unread` counts what it accepts and does not look into.
pub fn reference(source: &str) -> Result<Counts, String> {
    let file = syn::parse_file(source).map_err(|error| error.to_string())?;
    let mut counter = Counter::default();
    counter.visit_file(&file);
    let mut counts = counter.0;
    for unsaid in ["macro-item", "parameter"] {
        counts.remove(unsaid);
    }
    Ok(counts)
}

/// The same counts for a tree.
pub fn own_counts(source: &str, tree: &Tree) -> Counts {
    let mut found = Counts::new();
    let mut described = 0;
    for node in tree.nodes() {
        if node.token_range().end <= described {
            continue;
        }
        let mut add = |name: &'static str, count: usize| {
            if count > 0 {
                *found.entry(name).or_default() += count;
            }
        };
        match node.kind() {
            Kind::Decorator if describes(source, node) => described = node.token_range().end,
            // The fields of a type without names.
            Kind::TupleType if node.parent().is_some_and(|parent| holds_fields(parent)) => {}
            Kind::Logical => add("logical", node.children().count() - 1),
            // A name that is both the field and its value is two there.
            Kind::ShorthandPair => {
                add("pair", 1);
                add("name", 1);
            }
            Kind::KeywordPattern => {
                add("keyword-pattern", 1);
                let is_short = !(node.child(Role::Name).is_some() && node.child(Role::Pattern).is_some());
                add("name", usize::from(is_short));
            }
            Kind::MacroCall | Kind::MacroDefinition => {
                add("macro", 1);
                if node.kind() == Kind::MacroDefinition {
                    add("macro-definition", 1);
                    // The word before its `!` is a path there.
                    add("name", 1);
                }
            }
            Kind::Assignment if node.role() == Role::Item => {}
            Kind::Lifetime => add("lifetime", 1),
            Kind::Name if !is_receiver(source, node) => add("name", 1),
            Kind::Number if matches!(node.role(), Role::Name | Role::Key) => {}
            Kind::String if !matches!(node.role(), Role::Part) && !is_interface(node) => add("literal", 1),
            Kind::Number | Kind::Character | Kind::Bytes | Kind::Boolean => add("literal", 1),
            Kind::ImportItem if node.role() == Role::Item && is_nested(node) => add("import-item", 1),
            Kind::ImportItem => {}
            kind if COMPARED.contains(&kind) => add(kind.name(), 1),
            _ => {}
        }
    }
    found
}

/// Whether a type may stand for fields.
fn holds_fields(node: NodeRef<'_>) -> bool {
    matches!(node.kind(), Kind::TypeDefinition | Kind::EnumMember)
}

/// Whether a name is the `self` of a parameter, which is a word of its own there.
fn is_receiver(source: &str, node: NodeRef<'_>) -> bool {
    node.role() == Role::Name
        && node.parent().is_some_and(|parent| parent.kind() == Kind::Parameter)
        && &source[node.span().range()] == "self"
}

/// Whether a string names how the functions of a block are called.
fn is_interface(node: NodeRef<'_>) -> bool {
    node.parent().is_some_and(|parent| parent.kind() == Kind::ExternBlock)
}

fn is_nested(node: NodeRef<'_>) -> bool {
    node.parent().is_some_and(|parent| parent.kind() == Kind::ImportItem)
}

/// Whether an attribute is a description.
fn describes(source: &str, node: NodeRef<'_>) -> bool {
    node.child(Role::Value).is_some_and(|path| &source[path.span().range()] == "doc")
}

const COMPARED: &[Kind] = &[
    Kind::Function,
    Kind::TypeDefinition,
    Kind::Enum,
    Kind::EnumMember,
    Kind::Field,
    Kind::Implementation,
    Kind::Interface,
    Kind::Namespace,
    Kind::ExternBlock,
    Kind::Import,
    Kind::Declaration,
    Kind::TypeAlias,
    Kind::Call,
    Kind::Member,
    Kind::Await,
    Kind::If,
    Kind::Match,
    Kind::Case,
    Kind::While,
    Kind::For,
    Kind::Lambda,
    Kind::Return,
    Kind::Break,
    Kind::Continue,
    Kind::Yield,
    Kind::Assignment,
    Kind::CompoundAssignment,
    Kind::Comparison,
    Kind::Binary,
    Kind::Unary,
    Kind::Cast,
    Kind::Propagation,
    Kind::Tuple,
    Kind::Group,
    Kind::List,
    Kind::RepeatedList,
    Kind::Composite,
    Kind::Pair,
    Kind::Range,
    Kind::LetCondition,
    Kind::Subscript,
    Kind::BlockExpression,
    Kind::Labeled,
    Kind::TypeParameter,
    Kind::PointerType,
    Kind::TupleType,
    Kind::GroupType,
    Kind::ArrayType,
    Kind::FunctionType,
    Kind::TraitType,
    Kind::InferType,
    Kind::PredefinedType,
    Kind::TypeBound,
    Kind::TypeArguments,
    Kind::KeywordArgument,
    Kind::SequencePattern,
    Kind::ClassPattern,
    Kind::OrPattern,
    Kind::GroupPattern,
    Kind::ReferencePattern,
    Kind::Decorator,
];

/// Files that are read otherwise here: traits in parentheses as a type without `dyn`, as the first edition has them.
const OTHERWISE: &[&str] = &["/signal-hook-registry-1.4."];

#[test]
fn packages_are_what_a_general_parser_makes_of_them() {
    let files = sources();
    if files.is_empty() {
        return;
    }
    let mut differ = Vec::new();
    let (mut accepted, mut compared) = (0, 0);
    for file in &files {
        let path = file.to_string_lossy();
        let Ok(source) = std::fs::read_to_string(file) else { continue };
        if OTHERWISE.iter().any(|part| path.contains(part)) {
            continue;
        }
        compared += 1;
        let (text, tree) = parsed(Language::Rust, file);
        let ours = faults(&text, &tree);
        match reference(&source) {
            Ok(theirs) if ours.is_empty() => {
                accepted += 1;
                if theirs.contains_key("unread") {
                    continue;
                }
                let wrong = unequal(&own_counts(text.source(), &tree), &theirs);
                if !wrong.is_empty() {
                    differ.push(format!("{path}: {}", wrong.join(", ")));
                }
            }
            Ok(_) => differ.push(format!("{path}: accepted there, {}", ours[0])),
            Err(why) if ours.is_empty() => differ.push(format!("{path}: refused there: {why}")),
            Err(_) => {}
        }
    }
    assert!(differ.is_empty(), "{} of {compared}:\n{}", differ.len(), differ.join("\n"));
    assert!(accepted > 2000, "{accepted} of {compared} files are accepted");
}
