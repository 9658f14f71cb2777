#!/usr/bin/env python3
"""Read the list of quays that the county sends each spring."""

import csv
import sys


def rows(path):
    with open(path, newline="") as file:
        for row in csv.DictReader(file, delimiter=";"):
            yield row["name"].strip().lower(), float(row["depth"]) * 100


def main():
    quays = dict(rows(sys.argv[1]))
    for name, depth in sorted(quays.items()):
        print(f"{name:12} {depth:6.0f} cm")


if __name__ == "__main__":
    main()