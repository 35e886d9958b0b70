# Shared by ./demo and ./check: one virtual environment beside the code. Meant to be sourced.

unset PYTHONDONTWRITEBYTECODE # else every start of Python compiles all of the program anew

say() { printf '%s\n' "isometron: $*" >&2; }

# The newest Python of 3.11 or later on this machine.
find_python() {
    local name
    for name in python3 python3.14 python3.13 python3.12 python3.11; do
        if command -v "$name" >/dev/null 2>&1 &&
            "$name" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
            command -v "$name"
            return 0
        fi
    done
    say "Python 3.11 or later is needed; install it with your system's package manager."
    return 1
}

# Debian's package for a shared library that Qt asks for.
package_of() {
    case "$1" in
        libEGL.so*) echo libegl1 ;;
        libGL.so*) echo libgl1 ;;
        libOpenGL.so*) echo libopengl0 ;;
        libGLX.so*) echo libglx0 ;;
        libxkbcommon.so*) echo libxkbcommon0 ;;
        libxkbcommon-x11.so*) echo libxkbcommon-x11-0 ;;
        libfontconfig.so*) echo libfontconfig1 ;;
        libfreetype.so*) echo libfreetype6 ;;
        libdbus-1.so*) echo libdbus-1-3 ;;
        libglib-2.0.so* | libgthread-2.0.so*) echo libglib2.0-0 ;;
        libX11-xcb.so*) echo libx11-xcb1 ;;
        libX11.so*) echo libx11-6 ;;
        libxcb.so*) echo libxcb1 ;;
        libxcb-cursor.so*) echo libxcb-cursor0 ;;
        libxcb-icccm.so*) echo libxcb-icccm4 ;;
        libxcb-image.so*) echo libxcb-image0 ;;
        libxcb-keysyms.so*) echo libxcb-keysyms1 ;;
        libxcb-randr.so*) echo libxcb-randr0 ;;
        libxcb-render-util.so*) echo libxcb-render-util0 ;;
        libxcb-render.so*) echo libxcb-render0 ;;
        libxcb-shape.so*) echo libxcb-shape0 ;;
        libxcb-shm.so*) echo libxcb-shm0 ;;
        libxcb-sync.so*) echo libxcb-sync1 ;;
        libxcb-util.so*) echo libxcb-util1 ;;
        libxcb-xfixes.so*) echo libxcb-xfixes0 ;;
        libxcb-xkb.so*) echo libxcb-xkb1 ;;
        libcups.so*) echo libcups2 ;;
        libz.so*) echo zlib1g ;;
        *) echo "the package with $1" ;;
    esac
}

# Packages of the system libraries that Qt asks for and the machine lacks, on one line.
missing_packages() {
    local qt file library
    qt=$(echo "$1"/lib/python3*/site-packages/PyQt6/Qt6)
    for file in "$qt"/lib/libQt6Widgets.so.6 "$qt"/lib/libQt6Gui.so.6 \
        "$qt"/lib/libQt6PrintSupport.so.6 "$qt"/plugins/platforms/libqoffscreen.so \
        "$qt"/plugins/platforms/libqxcb.so; do
        ldd "$file" 2>/dev/null | awk '/not found/ {print $1}'
    done | sort -u | sed '/^libQt6/d' | while read -r library; do package_of "$library"; done |
        sort -u | tr '\n' ' '
}

# Debian-like and root: install; otherwise print the exact line to type.
install_packages() {
    local packages=$1
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
        say "installing $packages"
        # shellcheck disable=SC2086 # a list of words on purpose
        { apt-get update -qq && DEBIAN_FRONTEND=noninteractive \
            apt-get install -y -qq --no-install-recommends $packages; } >/dev/null && return 0
    fi
    say "some system libraries are missing; please type:  sudo apt-get install $packages"
    return 1
}

# prepare HERE EXTRAS: the environment for this state of pyproject.toml, made once.
prepare() {
    local here=$1 extras=$2 python stamp state missing
    stamp="$here/.venv/.prepared${extras:+-$extras}"
    state="$(cksum <"$here/pyproject.toml") $here"
    if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$state" ]; then
        return 0
    fi
    python=$(find_python) || return 1
    if [ ! -x "$here/.venv/bin/python" ]; then
        say "making the environment in .venv (once)"
        if ! "$python" -m venv "$here/.venv" >/dev/null 2>&1; then
            install_packages python3-venv || return 1
            "$python" -m venv --clear "$here/.venv" || return 1
        fi
    fi
    say "installing what the project needs (once)"
    "$here/.venv/bin/python" -m pip install -q --disable-pip-version-check \
        -e "$here${extras:+[$extras]}" || return 1
    missing=$(missing_packages "$here/.venv")
    if [ -n "$missing" ]; then
        install_packages "$missing" || return 1
    fi
    printf '%s' "$state" >"$stamp"
}
