//! Scripts and what they are made of.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

use crate::shape::{assert_sound, shape};

fn parsed(source: &str) -> Tree {
    let text = Text::new(source.to_string());
    let tree = Language::Shell.parse(&text);
    assert_sound(&tree, source);
    tree
}

#[track_caller]
fn assert_shape(source: &str, expected: &str) {
    let tree = parsed(source);
    assert!(tree.faults().is_empty(), "{source}: {}", tree.faults()[0].problem);
    let shapes: Vec<String> = tree.root().children().map(shape).collect();
    assert_eq!(shapes.join(" "), expected, "{source}");
}

#[track_caller]
fn assert_refused(source: &str, message: &str) {
    let tree = parsed(source);
    let found: Vec<String> = tree.faults().iter().map(|fault| fault.problem.to_string()).collect();
    assert_eq!(found, [message], "{source}");
}

#[test]
fn commands_have_words_with_parts() {
    assert_shape("echo north 'quay' \"at $tide\"\n", "command(word word word(string) word(format-string(expansion)))");
    assert_shape(
        "a=1 b=$(date) sail\n",
        "command(assignment(name word) assignment(name word(command-substitution(command(word)))) word)",
    );
    assert_shape(
        "echo ${tide:-$(low \"$1\")}x\n",
        "command(word word(expansion(name command-substitution(command(word word(format-string(expansion)))))))",
    );
    assert_shape(
        "echo `ls \"$a\"`\n",
        "command(word word(command-substitution(command(word word(format-string(expansion))))))",
    );
    assert_shape("quays=(north [2]=south)\n", "command(assignment(name list(word pair(arithmetic(number) word))))");
    assert_shape(
        "diff <(a) >(b)\n",
        "command(word word(process-substitution(command(word))) word(process-substitution(command(word))))",
    );
}

#[test]
fn compound_commands_are_the_kinds_of_other_languages() {
    assert_shape(
        "if a; then b; elif c; then d; else e; fi\n",
        "if(block(command(word)) block(command(word)) if(block(command(word)) block(command(word)) block(command(word))))",
    );
    assert_shape(
        "while read -r x; do break; done < f\n",
        "redirected(while(block(command(word word word)) block(break(word))) redirection(word))",
    );
    assert_shape(
        "for quay in a \"$@\"; do continue 2; done\n",
        "for(name word word(format-string(expansion)) block(continue(word word)))",
    );
    assert_shape(
        "for ((i=0; i<3; i++)); do a; done\n",
        "for(arithmetic(assignment(name number) comparison(name number) update(name)) block(command(word)))",
    );
    assert_shape(
        "case $1 in a|b) c;; (*) d; esac\n",
        "match(word(expansion) case(word word block(command(word))) case(word block(command(word))))",
    );
    assert_shape("sail() { return 1; }\n", "function(word block(return(word word)))");
    assert_shape("function sail { a; }\n", "function(word block(command(word)))");
    assert_shape(
        "! a | b && (c; d) || { e; }\n",
        "logical(pipeline(command(word) command(word)) subshell(block(command(word) command(word))) command-group(block(command(word))))",
    );
    assert_shape(
        "[[ -f $a && ! ( b == c* || $d =~ ^(x|y z)$ ) ]]\n",
        "shell-test(logical(unary(word(expansion)) unary(group(logical(comparison(word word) comparison(word(expansion) word))))))",
    );
    assert_shape("coproc tides { a; }\n", "coprocess(command(word) command-group(block(command(word))))");
    assert_shape("time -p { a; }\n", "pipeline(command-group(block(command(word))))");
    assert_shape("((a += b[2] * 3))\n", "arithmetic(compound-assignment(name binary(subscript(name number) number)))");
}

#[test]
fn arithmetic_is_a_tree_of_operators() {
    let arithmetic = |source: &str, expected: &str| {
        assert_shape(&format!("(({source}))\n"), &format!("arithmetic({expected})"));
    };
    arithmetic("a + b * c - d", "binary(binary(name binary(name name)) name)");
    arithmetic("a ** b ** c", "binary(name binary(name name))");
    arithmetic("a = b ? c : d, e", "sequence(assignment(name conditional(name name name)) name)");
    arithmetic(
        "!a && -b <= ~c || d != e",
        "logical(logical(unary(name) comparison(unary(name) unary(name))) comparison(name name))",
    );
    arithmetic("a++ + --b", "binary(update(name) update(name))");
    arithmetic("(1 << $n) | 0x$b", "binary(group(binary(number expansion)) word(number expansion))");
    arithmetic("a $op b", "name expansion name");
    arithmetic("a +", "binary(name)");
}

#[test]
fn here_documents_stand_behind_the_line_that_asks_for_them() {
    assert_shape(
        "cat <<A; b\n$tide `x`\nA\nc\n",
        "command(word redirection(word)) command(word) here-document(expansion command-substitution(command(word))) command(word)",
    );
    assert_shape(
        "cat <<'A' <<-B\n$tide\nA\n\tx\n\tB\n",
        "command(word redirection(word(string)) redirection(word)) here-document here-document",
    );
    assert_shape(
        "x=$(cat <<A\nb)\nA\n)\n",
        "command(assignment(name word(command-substitution(command(word redirection(word)) here-document))))",
    );
    assert_shape("cat <<A\nnobody ends this\n", "command(word redirection(word)) here-document");
}

#[test]
fn words_of_the_grammar_are_plain_words_elsewhere() {
    assert_shape("echo if then done esac } ]]\n", "command(word word word word word word word)");
    assert_shape("for in in in; do echo do; done\n", "for(name word block(command(word word)))");
    assert_shape("case in in in) ;; esac\n", "match(word case(word))");
    assert_shape("a=b#c; echo a#b # done\n", "command(assignment(name word)) command(word word)");
    assert_shape(
        "echo \"${x:-it's}\" ${y#'}'}\n",
        "command(word word(format-string(expansion(name))) word(expansion(name string)))",
    );
    assert_shape(
        "$(case x in a) b;; esac)\n",
        "command(word(command-substitution(match(word case(word block(command(word)))))))",
    );
}

#[test]
fn one_mistake_is_told_once_and_what_follows_is_read() {
    assert_refused("if a; then\n", "expected a command, found the end of the file");
    assert_refused("while a; do b\nfi\ndone\n", "expected 'done', found 'fi'");
    assert_refused("echo \"tide\n", "this quote is never closed");
    assert_refused("a )\nb\n", "')' closes nothing");
    assert_refused("for 1 in; do; done\n", "expected a command, found ';'");
    for source in ["exec perl -x \"$0\"\nuse strict; my ($a) = (1);\n", "a\nexit 0\n)'\"\n"] {
        assert!(parsed(source).faults().is_empty(), "{source}");
    }
    assert_refused("exec 3>log\nfi\n", "expected a command, found 'fi'");
    let tree = parsed("a ;; b\nsail() { c; }\n");
    assert!(tree.nodes().any(|node| node.kind() == Kind::Function));
}

/// Each of these is read by bash without complaint.
#[test]
fn words_that_hold_what_looks_like_commands() {
    for source in [
        "[[ a =~ (b|$) ]]\n",
        "[[ $tide =~ ^(low|high)$ && -n $1 ]]\n",
        "[[ ! $tide =~ \\\n  ^$low([0-9]*)\\.(a|b)(.*) ]]\n",
        "quays=\\\n(\n  north\n)\n",
        "eval local quays=(north south)\n",
        "if [ -n \"`echo \\\"${tide}\\\" | grep \\\"^(${low})$\\\"`\" ]; then :; fi\n",
        "echo \"`printf \\\"a b\\\"`\" c\n",
    ] {
        let tree = parsed(source);
        assert!(tree.faults().is_empty(), "{source:?}: {:?}", tree.faults());
    }
    assert!(!parsed("command local quays=(north)\n").faults().is_empty());
}
