#!/usr/bin/env bash
# Makes the pictures in this folder from the demo: docs/screenshots/make.sh [NAME ...]
# Needs xterm, Xvfb, tmux, import (ImageMagick) and the DejaVu Sans Mono font, the release build of hsieve, nvim for one of them and chromium for another.
set -euo pipefail
cd "$(dirname "$0")/../.."
out=$PWD/docs/screenshots
export PATH="$PWD/target/release:$PATH" LC_ALL=C.UTF-8 COLORTERM=truecolor GIT_CONFIG_GLOBAL=/dev/null
for tool in xterm Xvfb tmux import hsieve; do
  command -v "$tool" >/dev/null || { echo "make.sh: $tool is missing" >&2; exit 1; }
done
work=$(mktemp -d); screen=
trap '[ -z "$screen" ] || kill "$screen" 2>/dev/null; rm -rf "$work"' EXIT
export HOME=$work XDG_STATE_HOME=$work/state XDG_CACHE_HOME=$work/cache
Xvfb -displayfd 5 -screen 0 1500x1400x24 -dpi 96 -nolisten tcp 5>"$work/display" >/dev/null 2>&1 & screen=$!
until [ -s "$work/display" ]; do read -rt 0.05 <> <(:) || true; done
DISPLAY=:$(cat "$work/display")
export DISPLAY

# The demo as a repository of its own, the same for each picture.
fresh() {
  rm -rf "$work/ferry"
  cp -r "$out/../../demo" "$work/ferry"
  cd "$work/ferry"
  git init --quiet --initial-branch=main
  git add --all
  git -c user.name=crew -c user.email=crew@saltmarsh.example commit --quiet --message 'The ferry'
}

# shot NAME PREPARE COMMAND [SHOWN]: a picture of a command with its command line, or with another one that means the same.
shot() {
  local name=$1 prepare=$2 command=$3
  if [ ${#wanted[@]} -gt 0 ] && [[ ! " ${wanted[*]} " == *" $name "* ]]; then return; fi
  fresh
  eval "$prepare" >/dev/null 2>&1 || true
  printf '%s\n' "printf '\033[?25l\033[1m\$ %s\033[0m\n\n' \"\$SHOWN\"" "$command" "touch '$work/done'" 'read -rt 20' > "$work/run.sh"
  rm -f "$work/done"
  SHOWN=${4:-$command} xterm -u8 -tn xterm-256color +sb -b 10 -bw 0 -fa 'DejaVu Sans Mono' -fs 11 -bg '#16181d' -fg '#d8dbe2' \
    -geometry "112x74+0+0" -e bash "$work/run.sh" & local terminal=$!
  for _ in $(seq 200); do [ -e "$work/done" ] && break; read -rt 0.05 <> <(:) || true; done
  read -rt 0.6 <> <(:) || true
  import -window root "$work/whole.png"
  convert "$work/whole.png" -crop 1028x1352+0+0 +repage -trim +repage -bordercolor '#16181d' -border 14 "$out/$name.png"
  kill "$terminal" 2>/dev/null || true
  wait "$terminal" 2>/dev/null || true
  echo "$name.png"
}

# live NAME ROWS COMMAND STEPS: a command that takes the whole terminal, with its command line above; once for each of the steps, one below
# the other. A step is what is run while the command is there; `press KEY ...` presses keys.
live() {
  local name=$1 rows=$2 command=$3 step parts=()
  shift 3
  if [ ${#wanted[@]} -gt 0 ] && [[ ! " ${wanted[*]} " == *" $name "* ]]; then return; fi
  for step in "$@"; do
    fresh
    xterm -u8 -tn xterm-256color +sb -b 10 -bw 0 -fa 'DejaVu Sans Mono' -fs 11 -bg '#16181d' -fg '#d8dbe2' -geometry "112x$rows+0+0" \
      -e tmux -S "$work/tmux" -f <(printf '%s\n' 'set -g status off' 'set -g default-terminal tmux-256color') new-session "$command" & local terminal=$!
    read -rt 2.5 <> <(:) || true
    eval "$step"
    read -rt 1 <> <(:) || true
    import -window root "$work/whole.png"
    tmux -S "$work/tmux" kill-server 2>/dev/null || true
    wait "$terminal" 2>/dev/null || true
    parts+=("$work/part${#parts[@]}.png")
    convert "$work/whole.png" -crop "1028x$((rows * 18 + 22))+0+0" +repage "${parts[-1]}"
  done
  convert -background '#16181d' -fill '#d8dbe2' -font DejaVu-Sans-Mono-Bold -pointsize 15 "label: \$ $command " -bordercolor '#16181d' -border 8 "$work/head.png"
  convert -background '#16181d' "$work/head.png" "${parts[@]}" -append -trim +repage -bordercolor '#16181d' -border 14 "$out/$name.png"
  echo "$name.png"
}
press() { for key in "$@"; do tmux -S "$work/tmux" send-keys "$key"; read -rt 0.3 <> <(:) || true; done; }

wanted=("$@")
shot sift : 'hsieve sift booking/fares.py booking/tickets.py tools'
shot explain : 'hsieve explain mutable-default'
shot rules : 'hsieve rules hazard'
shot settings : 'hsieve settings booking/fares.py --color always | head -44' 'hsieve settings booking/fares.py | head -44'
shot find : "hsieve find 'call { callee.name is \"print\" } inside function'; printf '\n\033[1m\$ hsieve find --like booking/desk.py:13\033[0m\n\n'; hsieve find --like booking/desk.py:13" \
  "hsieve find 'call { callee.name is \"print\" } inside function'"
shot pack-test 'sed -i "s/5:12/4:1/; s/^fixed = .def greet(ticket)/fixed = \"def greet(boat)/" lint/ferry.toml' 'hsieve pack test lint/ferry.toml'
shot rename : 'hsieve rename booking/crew.py:8:7 CrewList --preview'
shot baseline-status 'hsieve baseline take' 'hsieve baseline status'
shot counts : 'hsieve sift booking display web --output counts'
shot waivers : 'hsieve waivers --mesh fine'
shot data : 'hsieve sift --pack api-valid --pack lint/service.toml --only "api-valid:*,service:pinned-image,service:known-step" api ops'
shot pages : 'hsieve sift web/pages/index.html'
shot infrastructure : 'hsieve sift infra'
shot init : 'hsieve init --yes'
shot review : 'echo q | hsieve fix --review booking/tickets.py' 'hsieve fix --review booking/tickets.py'
cat > "$work/editor.lua" <<'LUA'
-- Neovim for the picture of the guide: the lines of the guide, and the menu of actions as soon as there are findings.
local client
vim.api.nvim_create_autocmd("FileType", {
  pattern = { "python" },
  callback = function(opened)
    client = client or vim.lsp.start_client({ name = "hsieve", cmd = { "hsieve", "lsp" }, root_dir = vim.fn.getcwd() })
    vim.lsp.buf_attach_client(opened.buf, client)
  end,
})
vim.api.nvim_create_autocmd("DiagnosticChanged", {
  once = true,
  callback = function() vim.defer_fn(vim.lsp.buf.code_action, 500) end,
})
vim.o.number = true
vim.o.ruler = false
LUA
shot editor : "nvim --clean -u '$work/editor.lua' -c 'set lines=32' +33 -c 'normal! 22Gzt33G' booking/tickets.py" 'nvim booking/tickets.py'
live watch 28 'hsieve watch' "printf 'import os\n' >> booking/desk.py; read -rt 1 <> <(:) || true; sed -i 's/def total(/def total(day, /' booking/fares.py"
live triage 28 'hsieve triage' 'press n n n n n n n f n n n n n n n n n n n' "press '?'"

# The report as a browser shows it.
report() {
  if [ ${#wanted[@]} -gt 0 ] && [[ ! " ${wanted[*]} " == *" report "* ]]; then return; fi
  fresh
  printf 'booking/ @fares\nweb/ @board\n' > CODEOWNERS
  for rules in unused-import unused-variable identity-of-literal layout; do
    hsieve sift --record runs.jsonl --quiet >/dev/null || true
    hsieve fix --quiet --only "$rules" >/dev/null
  done
  hsieve report --history runs.jsonl --to report.html >/dev/null
  chromium --headless --no-sandbox --disable-gpu --disable-background-networking --user-data-dir="$work/chromium" --hide-scrollbars \
    --window-size=1100,1500 --screenshot="$work/page.png" "file://$PWD/report.html" 2>/dev/null
  convert -background '#16181d' -fill '#d8dbe2' -font DejaVu-Sans-Mono-Bold -pointsize 15 'label: $ hsieve report --history runs.jsonl --to report.html ' -bordercolor '#16181d' -border 8 "$work/head.png"
  convert -background '#16181d' "$work/head.png" "$work/page.png" -append "$out/report.png"
  echo report.png
}
report
