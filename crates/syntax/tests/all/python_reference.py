"""Prints what the running interpreter makes of Python files, one line of JSON a file.

Arguments: folders to walk, or nothing for the interpreter's own library. With --sources the files are
read from standard input instead: one JSON string a line, each a source text.
"""

import ast
import collections
import json
import os
import sys
import sysconfig
import warnings

SORTS = {
    "FunctionDef": "function", "AsyncFunctionDef": "function", "ClassDef": "class", "Call": "call",
    "Import": "import", "ImportFrom": "import", "Assign": "assignment", "AnnAssign": "annotated-assignment",
    "AugAssign": "compound-assignment", "Compare": "comparison", "Lambda": "lambda", "ListComp": "comprehension",
    "SetComp": "comprehension", "DictComp": "comprehension", "GeneratorExp": "comprehension",
    "Attribute": "member", "Subscript": "subscript", "Return": "return", "Raise": "throw", "If": "if", "For": "for",
    "AsyncFor": "for", "While": "while", "With": "with", "AsyncWith": "with", "Try": "try", "TryStar": "try",
    "ExceptHandler": "catch", "Assert": "assert", "Delete": "delete", "Global": "global", "Nonlocal": "nonlocal",
    "Await": "await", "Yield": "yield", "YieldFrom": "yield-from", "IfExp": "conditional", "BoolOp": "logical",
    "BinOp": "binary", "NamedExpr": "named-expression", "Match": "match", "match_case": "case", "keyword": None,
    "Slice": "slice", "arg": "parameter", "alias": None, "FormattedValue": "interpolation",
}


def verdict(source):
    try:
        tree = ast.parse(source)
    except (SyntaxError, ValueError) as error:
        return {"accepted": False, "message": str(error)}
    except (RecursionError, MemoryError) as error:
        return {"accepted": None, "message": repr(error)}
    counts = collections.Counter()
    for node in ast.walk(tree):
        sort = SORTS.get(type(node).__name__)
        if sort:
            counts[sort] += 1
    return {"accepted": True, "counts": counts}


def files(folders):
    for folder in folders:
        for root, inner, names in os.walk(folder):
            inner[:] = sorted(name for name in inner if name not in ("site-packages", "__pycache__"))
            for name in sorted(names):
                if name.endswith(".py"):
                    yield os.path.join(root, name)


def main():
    warnings.simplefilter("ignore")
    if sys.argv[1:] == ["--sources"]:
        for line in sys.stdin:
            print(json.dumps(verdict(json.loads(line))))
        return
    for path in files(sys.argv[1:] or [sysconfig.get_path("stdlib")]):
        with open(path, "rb") as file:
            print(json.dumps({"path": path, **verdict(file.read())}))


main()
