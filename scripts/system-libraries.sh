#!/usr/bin/env bash
# Sees that the system libraries Qt needs are there; installs them where it may, else prints the one command.
set -u
libraries=(libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1
           libxcb-render-util0 libxcb-shape0 libxcb-xinerama0 libdbus-1-3 libfontconfig1 libglib2.0-0 xvfb xauth
           python3-venv)
command -v dpkg-query >/dev/null || { echo "Not a Debian-like system: see README for the libraries Qt needs."; exit 0; }
missing=()
for name in "${libraries[@]}"; do
  dpkg-query -W -f='${Status}' "$name" 2>/dev/null | grep -q "ok installed" && continue
  # The 64-bit time_t rename: libglib2.0-0 may be called libglib2.0-0t64 there.
  dpkg-query -W -f='${Status}' "${name}t64" 2>/dev/null | grep -q "ok installed" && continue
  # A Python that brings its own venv module needs no package for it.
  [ "$name" = python3-venv ] && python3 -c 'import ensurepip, venv' 2>/dev/null && continue
  missing+=("$name")
done
[ ${#missing[@]} -eq 0 ] && exit 0
run=()
[ "$(id -u)" -ne 0 ] && { sudo -n true 2>/dev/null && run=(sudo -n); }
if [ "$(id -u)" -eq 0 ] || [ ${#run[@]} -gt 0 ]; then
  echo "Installing system libraries: ${missing[*]}"
  "${run[@]}" apt-get update -qq && "${run[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}" >/dev/null && exit 0
fi
echo "System libraries are missing. Install them with this command, then run make again:"
echo "  sudo apt-get install -y ${missing[*]}"
exit 1
