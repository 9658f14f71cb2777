"""What a general parsing library makes of files of C#: a line for each, its verdict and how often each thing is in it."""

import sys

import tree_sitter
import tree_sitter_c_sharp

NAMES = {
    "function": "method_declaration constructor_declaration destructor_declaration operator_declaration"
    " conversion_operator_declaration local_function_statement",
    "class": "class_declaration struct_declaration record_declaration",
    "interface": "interface_declaration",
    "enum": "enum_declaration",
    "enum-member": "enum_member_declaration",
    "delegate": "delegate_declaration",
    "property": "property_declaration indexer_declaration event_declaration",
    "accessor": "accessor_declaration",
    "field": "field_declaration event_field_declaration",
    "declaration": "local_declaration_statement",
    "if": "if_statement",
    "while": "while_statement",
    "do": "do_statement",
    "for": "for_statement foreach_statement",
    "match": "switch_statement switch_expression",
    "try": "try_statement",
    "catch": "catch_clause",
    "with": "lock_statement using_statement fixed_statement",
    "return": "return_statement",
    "yield": "yield_statement",
    "throw": "throw_statement throw_expression",
    "break": "break_statement",
    "continue": "continue_statement",
    "goto": "goto_statement",
    "labeled": "labeled_statement",
    "call": "invocation_expression",
    "new": "object_creation_expression implicit_object_creation_expression array_creation_expression"
    " implicit_array_creation_expression anonymous_object_creation_expression stackalloc_expression"
    " implicit_stackalloc_expression",
    "lambda": "lambda_expression anonymous_method_expression",
    "cast": "cast_expression as_expression",
    "conditional": "conditional_expression",
    "group": "parenthesized_expression",
    "assignment": "assignment_expression",
    "binary": "binary_expression",
    "is": "is_expression is_pattern_expression",
    "subscript": "element_access_expression element_binding_expression",
    "format": "interpolated_string_expression",
    "interpolation": "interpolation",
    "character": "character_literal",
    "null": "null_literal",
    "boolean": "boolean_literal",
    "attribute": "attribute",
    "type-arguments": "type_argument_list",
    "array-type": "array_type",
    "optional-type": "nullable_type",
    "tuple-type": "tuple_type",
    "tuple": "tuple_expression",
    "query": "query_expression",
    "await": "await_expression",
    "namespace": "namespace_declaration file_scoped_namespace_declaration",
    "using": "using_directive",
    "where": "type_parameter_constraints_clause",
    "type-parameter": "type_parameter",
}
OWN = {kind: name for name, kinds in NAMES.items() for kind in kinds.split()}


def is_created(node):
    """Whether the type of an array is that of one that is made: its sizes are part of it there."""
    around = node.parent
    while around and around.type == "array_type":
        around = around.parent
    return bool(around) and around.type in ("array_creation_expression", "stackalloc_expression")


def is_product(node):
    """Whether it takes a product among arguments for a pointer that is declared."""
    return node.type == "declaration_expression" and node.children[0].type == "pointer_type"


def said(parser, path):
    with open(path, "rb") as file:
        tree = parser.parse(file.read())
    if tree.root_node.has_error:
        return "bad"
    counts = {}
    cursor = tree.walk()
    while True:
        name = OWN.get(cursor.node.type) if cursor.node.is_named else None
        if is_product(cursor.node):
            name = "binary"
        if name and not (name == "array-type" and is_created(cursor.node)):
            counts[name] = counts.get(name, 0) + 1
        if cursor.goto_first_child():
            continue
        while not cursor.goto_next_sibling():
            if not cursor.goto_parent():
                return " ".join(["ok", *(f"{name}={count}" for name, count in sorted(counts.items()))])


def main():
    parser = tree_sitter.Parser(tree_sitter.Language(tree_sitter_c_sharp.language()))
    with open(sys.argv[1]) as files:
        for line in files:
            print(said(parser, line.rstrip("\n")))


main()
