#!/bin/sh
# Copies the board's pages to the screens on the quays. Run by hand after each change.

SCREENS=/etc/saltmarsh/screens

cd "$1"
while read name address; do
  if [[ -z $address ]]; then
    echo "no address for $name" >&2
    continue
  fi
  scp -q index.html board.css "screen@$address:" || echo "$name is out of reach" >&2
done < "$SCREENS"
rm -f board.css.new $2
