#!/bin/sh
# Sifts in a job: what a proposal changes, or everything.
# `hsieve init --with ci=shell` wrote this; it is yours to change.
#
#   SIEVE_BASE     what the proposal goes into, such as origin/main;
#                  everything is sifted where it is not set
#   SIEVE_RESULTS  the folder for the results; sieve-results if not set
#
# The log shows the findings and the account. The results are sieve.sarif
# for code hosts and editors, sieve.xml for reports of tests, and sieve.md
# for a summary. The exit status is that of hsieve: 1 for findings, 2 for
# wrong settings, 3 for what could not be read.
set -u

results=${SIEVE_RESULTS:-sieve-results}
again="hsieve sift"

if ! command -v hsieve >/dev/null; then
  echo "hsieve is not on the PATH of this job" >&2
  exit 3
fi
mkdir -p "$results" || exit 3

set -- --output cards
set -- "$@" --output sarif --to "$results/sieve.sarif"
set -- "$@" --output junit --to "$results/sieve.xml"
set -- "$@" --output markdown --to "$results/sieve.md"
if [ -n "${SIEVE_BASE:-}" ]; then
  set -- "$@" --changed "$SIEVE_BASE"
  again="hsieve sift --changed $SIEVE_BASE"
fi

hsieve --version
hsieve --color never sift "$@"
status=$?
if [ "$status" -ne 0 ]; then
  echo
  echo "The exit status is $status. The same on your machine: $again"
fi
exit "$status"
