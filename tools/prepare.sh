# Sourced by ./start and ./check: makes .venv beside this folder and names what the system lacks.
# The caller sets lock (a lock file) and wanted (Debian packages) first.
set -eu

# Bytecode is written at the first import and not at set-up; without it every start would take
# seconds longer.
unset PYTHONDONTWRITEBYTECODE

# Is a Debian package's content here? Asked by what it brings, so that other systems pass too.
present() {
    case $1 in
    python3) command -v python3 >/dev/null 2>&1 ;;
    python3-venv) python3 -c 'import venv, ensurepip' >/dev/null 2>&1 ;;
    xvfb) command -v Xvfb >/dev/null 2>&1 ;;
    xauth) command -v xauth >/dev/null 2>&1 ;;
    libglib2.0-0) library libglib-2.0.so.0 && library libgthread-2.0.so.0 ;;
    libgl1) library libGL.so.1 ;;
    libegl1) library libEGL.so.1 ;;
    libxkbcommon0) library libxkbcommon.so.0 ;;
    libfreetype6) library libfreetype.so.6 ;;
    libfontconfig1) library libfontconfig.so.1 ;;
    libdbus-1-3) library libdbus-1.so.3 ;;
    libxkbcommon-x11-0) library libxkbcommon-x11.so.0 ;;
    libxcb-cursor0) library libxcb-cursor.so.0 ;;
    libxcb-icccm4) library libxcb-icccm.so.4 ;;
    libxcb-image0) library libxcb-image.so.0 ;;
    libxcb-keysyms1) library libxcb-keysyms.so.1 ;;
    libxcb-randr0) library libxcb-randr.so.0 ;;
    libxcb-render-util0) library libxcb-render-util.so.0 ;;
    libxcb-shape0) library libxcb-shape.so.0 ;;
    libxcb-xinerama0) library libxcb-xinerama.so.0 ;;
    *) return 1 ;;
    esac
}

library() {
    { /sbin/ldconfig -p 2>/dev/null || ldconfig -p 2>/dev/null; } | grep -q "[[:space:]]$1 "
}

missing=""
# shellcheck disable=SC2154  # set by the caller
for package in python3 python3-venv $wanted; do
    present "$package" || missing="$missing $package"
done
if [ -n "$missing" ]; then
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
        echo "installing:$missing" >&2
        apt-get update -qq >&2
        # shellcheck disable=SC2086  # a list of packages
        DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $missing >&2
    else
        echo "This system lacks:$missing" >&2
        echo "Install it with:  sudo apt-get install$missing" >&2
        exit 2
    fi
fi

if ! python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
    echo "Calveth needs Python 3.11 or newer; this is $(python3 --version)." >&2
    echo "Install it with:  sudo apt-get install python3   (Debian 12 or newer)" >&2
    exit 2
fi

# One environment serves ./start and ./check: it is made anew when what Calveth runs on or the
# Python changes, and ./check adds to it what only tests need.
stamp_of() {
    python3 -c 'import sys; print(sys.version)' | cat - "$1" | cksum | tr ' ' '-'
}

# Passes on what pip says as one line that tells what and how far; a log of it stays beside it.
follow() {
    total=$(grep -c '==' "$1")
    tee .venv/pip.log | awk -v total="$total" -v tty="$([ -t 2 ] && echo 1 || echo 0)" '
        function say(text) { printf(tty ? "\r  %-60s" : "  %s\n", text) >"/dev/stderr" }
        /^(Collecting|Requirement already)/ {
            count += 1
            if (tty || count % 10 == 0) say(count " of " total " packages fetched")
        }
        /^Installing/ { say("unpacking them, the longest part ...") }
        END { if (tty) printf "\r%-70s\r", "" >"/dev/stderr" }'
}

# All versions are pinned, so nothing is resolved; half of the time would go into bytecode that
# most of it never needs. What is imported compiles itself.
install() {
    { .venv/bin/python -m pip install --disable-pip-version-check --progress-bar off --no-compile \
        --no-deps --require-hashes -r "$1" && touch .venv/installed; } | follow "$1"
    if [ ! -e .venv/installed ]; then
        echo "Packages could not be fetched; see .venv/pip.log, then try again." >&2
        exit 2
    fi
    rm .venv/installed
    stamp_of "$1" >".venv/stamp-$1"
}

# Whether what a file (a lock, pyproject.toml) asks for is there.
is_made() {
    [ -x .venv/bin/python ] && [ "$(cat ".venv/stamp-$1" 2>/dev/null)" = "$(stamp_of "$1")" ]
}

if ! is_made requirements.lock; then
    if [ ! -w . ]; then
        echo "The folder $(pwd) may not be written by you; copy Calveth to one of yours." >&2
        exit 2
    fi
    echo "setting up, once: 1 of 3, an environment in .venv ..." >&2
    python3 -m venv --clear .venv
    echo "2 of 3, the packages Calveth runs on ..." >&2
    install requirements.lock
fi
if ! is_made pyproject.toml; then
    echo "3 of 3, Calveth itself ..." >&2
    .venv/bin/python -m pip install --quiet --disable-pip-version-check --no-compile \
        --no-build-isolation --no-deps -e . >&2
    # Half of what a command takes to start, where nothing is written beside the sources later.
    .venv/bin/python -m compileall -q src/calveth >/dev/null
    stamp_of pyproject.toml >.venv/stamp-pyproject.toml
fi
if [ "$lock" != requirements.lock ] && ! is_made "$lock"; then
    echo "adding what only the tests need ..." >&2
    install "$lock"
fi
