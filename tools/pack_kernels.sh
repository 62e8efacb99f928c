#!/bin/sh
# Compiles the balance anew for every Python named (or found), and packs what is shipped with it:
#   tools/pack_kernels.sh python3.11 python3.12 python3.13
# Run it whenever a kernel has changed; two minutes of one core for each.
set -eu
cd "$(dirname "$0")/.."
unset PYTHONDONTWRITEBYTECODE
[ $# -gt 0 ] || set -- python3.11 python3.12 python3.13
for python in "$@"; do
    if ! version=$("$python" -c 'import sys; print("%d.%d" % sys.version_info[:2])' 2>/dev/null); then
        echo "$python is not on this machine: its file stays as it is" >&2
        continue
    fi
    home=".venv-kernels/$version"
    if [ ! -x "$home/bin/python" ]; then
        "$python" -m venv "$home"
        # Only what the balance needs of the locked packages, at the locked versions.
        awk '/^[^ ]/ { on = /^(numba|llvmlite|numpy|scipy)==/ } on' requirements.lock >"$home/lock"
        "$home/bin/python" -m pip install --quiet --disable-pip-version-check --no-deps \
            --require-hashes -r "$home/lock"
    fi
    PYTHONPATH=src "$home/bin/python" -m calveth.core.make_compiled --pack
done
