"""Parses files of C# with a general parsing library, twice, and prints the seconds of the second time."""

import sys
import time

import tree_sitter
import tree_sitter_c_sharp


def main():
    parser = tree_sitter.Parser(tree_sitter.Language(tree_sitter_c_sharp.language()))
    with open(sys.argv[1]) as names:
        files = [open(name.rstrip("\n"), "rb").read() for name in names]
    for _ in range(2):
        start = time.perf_counter()
        for file in files:
            parser.parse(file)
    print(time.perf_counter() - start)


main()
