#!/usr/bin/env bash
# Installs Nullah for this user: its own environment, a command, the menu entry, the icon and the type of *.nullah files.
# With "remove": takes all of it away again; projects and kept work stay.
set -eu
cd "$(dirname "$0")/.."
data="${XDG_DATA_HOME:-$HOME/.local/share}"
bin="${NULLAH_BIN:-$HOME/.local/bin}"
home="$data/nullah/program"

refresh() {
  for tool in "update-mime-database $data/mime" "update-desktop-database $data/applications" \
              "gtk-update-icon-cache -q -t $data/icons/hicolor"; do
    if command -v "${tool%% *}" >/dev/null 2>&1; then $tool >/dev/null 2>&1 || true; fi
  done
}

if [ "${1:-}" = remove ]; then
  rm -rf "$home"
  rm -f "$bin/nullah" "$data/applications/nullah.desktop" "$data/mime/packages/nullah.xml" \
        "$data/icons/hicolor/scalable/apps/nullah.svg" "$data/icons/hicolor/scalable/mimetypes/application-x-nullah.svg"
  refresh
  echo "Nullah is taken away; your projects and any kept work stay where they are."
  exit 0
fi

mkdir -p "$bin" "$data/applications" "$data/mime/packages" "$data/icons/hicolor/scalable/apps" \
         "$data/icons/hicolor/scalable/mimetypes" "$data/nullah"
python3 -m venv "$home" >/dev/null
"$home/bin/pip" install -q -c constraints.txt .
ln -sf "$home/bin/nullah" "$bin/nullah"
sed "s|@NULLAH@|$bin/nullah|" share/nullah.desktop >"$data/applications/nullah.desktop"
cp share/nullah.xml "$data/mime/packages/nullah.xml"
cp src/nullah/gui/icons/nullah.svg "$data/icons/hicolor/scalable/apps/nullah.svg"
cp src/nullah/gui/icons/nullah.svg "$data/icons/hicolor/scalable/mimetypes/application-x-nullah.svg"
refresh
echo "Nullah is installed: find it in the menu, or run $bin/nullah."
