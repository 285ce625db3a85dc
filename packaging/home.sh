#!/usr/bin/env bash
# Puts launcher, icon, file type, completion and manual page into the user's own places, or takes away just what it put there:
# home.sh install PROGRAM | home.sh uninstall
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")" && pwd)"
data="${XDG_DATA_HOME:-$HOME/.local/share}"
config="${XDG_CONFIG_HOME:-$HOME/.config}"
bin="$HOME/.local/bin"
list="$data/hazel-lantern/installed.txt"

say() { printf 'hazel: %s\n' "$*" >&2; }

# A file of ours may be written anew; one of somebody else's never is.
place() {
  local to="$1"
  if [ -e "$to" ] && ! grep -qxF "$to" "$list" 2>/dev/null; then
    say "$to is there already and was not put there by this; it stays. Move it away first."
    exit 1
  fi
  mkdir -p "$(dirname "$to")"
  cat >"$to"
  grep -qxF "$to" "$list" || printf '%s\n' "$to" >>"$list"
}

refresh() {
  if command -v update-mime-database >/dev/null; then update-mime-database "$data/mime" 2>/dev/null || true; fi
  if command -v update-desktop-database >/dev/null; then update-desktop-database "$data/applications" 2>/dev/null || true; fi
}

case "${1:-}" in
  install)
    program="${2:?the program to start}"
    mkdir -p "$(dirname "$list")"
    touch "$list"
    place "$bin/hazel-lantern" <<LAUNCH
#!/bin/sh
exec "$program" "\$@"
LAUNCH
    chmod +x "$bin/hazel-lantern"
    sed "s|^Exec=hazel-lantern|Exec=\"$bin/hazel-lantern\"|" "$here/hazel-lantern.desktop" | place "$data/applications/hazel-lantern.desktop"
    place "$data/icons/hicolor/scalable/apps/hazel-lantern.svg" <"$here/hazel-lantern.svg"
    place "$data/mime/packages/hazel-lantern-mime.xml" <"$here/hazel-lantern-mime.xml"
    "$program" completion bash | place "$data/bash-completion/completions/hazel-lantern"
    "$program" completion fish | place "$config/fish/completions/hazel-lantern.fish"
    "$program" man | place "$data/man/man1/hazel-lantern.1"
    refresh
    say "installed for $(id -un): hazel-lantern in $bin, and in the list of applications"
    case ":$PATH:" in *":$bin:"*) ;; *) say "$bin is not on the PATH of this shell; a new one may have it" ;; esac
    ;;
  uninstall)
    [ -f "$list" ] || { say "nothing is installed"; exit 0; }
    while IFS= read -r file; do rm -f -- "$file"; done <"$list"
    rm -f -- "$list"
    refresh
    say "taken away; projects, preferences and catalogue packs are untouched"
    ;;
  *) say "home.sh install PROGRAM | home.sh uninstall"; exit 2 ;;
esac
