#!/bin/bash
# Keeps a copy of the ticket book for thirty days. Run every night on the harbour office's machine.
set -eu

BOOK=/var/lib/saltmarsh/tickets.db
KEPT=/var/backups/saltmarsh

copy_of_day() {
  local day=$1 stamp
  local target="$KEPT/tickets-$day.db"
  if [[ ! -f $BOOK ]]; then
    echo "no ticket book at $BOOK" >&2
    return 1
    rm -f "$target"
  fi
  cp -- "$BOOK" "$target"
}

forget_old() {
  find "$KEPT" -name 'tickets-*.db' -mtime +30 -delete
}

mkdir -p "$KEPT"
copy_of_day "$(date +%F)"
forget_old
