#!/usr/bin/env bash
# The Debian libraries that Qt and Xvfb need: installed by apt where it may be, named where not.
set -u
packages="xvfb xauth libegl1 libgl1 libxkbcommon0 libdbus-1-3 libfontconfig1 libfreetype6 libglib2.0-0 libxcb-cursor0 libxcb-icccm4
libxcb-keysyms1 libxcb-shape0 libxcb-image0 libxcb-render-util0 libxcb-randr0 libxcb-xinerama0 libxcb-xkb1 libxkbcommon-x11-0"

if ! python3 -c 'import ensurepip, venv' 2>/dev/null; then packages="$packages python3-venv"; fi

missing=""
for package in $packages; do
  if ! dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'install ok installed'; then
    missing="$missing $package"
  fi
done
[ -z "$missing" ] && exit 0

if ! command -v apt-get >/dev/null 2>&1; then
  echo "Nullah needs these libraries, by the names Debian gives them:$missing"
  echo "Install them with this system's package manager. Going on without."
  exit 0
fi
if [ "$(id -u)" = 0 ]; then as_root=""
elif sudo -n true 2>/dev/null; then as_root="sudo -n"
else
  echo "Nullah needs these packages. Install them, then run make again:"
  echo "  sudo apt-get install$missing"
  exit 1
fi
echo "Installing:$missing"
$as_root apt-get update -qq &&
  DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends $missing >/dev/null
