#!/bin/sh
# Makes a Debian package of Calveth and the locked packages it runs on:  tools/make_deb.sh [DIR]
# The package is for the Python this machine's system has; everything lies under /usr/lib/calveth.
set -eu
cd "$(dirname "$0")/.."
target=${1:-dist}
lock=requirements.lock
wanted=""
. tools/prepare.sh
python=/usr/bin/python3
minor=$($python -c 'import sys; print("%d.%d" % sys.version_info[:2])')
version=$(sed -n 's/^version = "\(.*\)"/\1/p' pyproject.toml)
machine=$(dpkg --print-architecture)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
root=$work/root
lib=$root/usr/lib/calveth

if [ "$(.venv/bin/python -c 'import sys; print("%d.%d" % sys.version_info[:2])')" != "$minor" ]; then
    echo "The environment has another Python than $python; delete .venv and make it with that." >&2
    exit 2
fi
echo "1 of 5, the packages it runs on ..." >&2
.venv/bin/python -m pip install --quiet --disable-pip-version-check --no-compile --no-deps \
    --require-hashes --target "$lib" -r "$lock" >&2
echo "2 of 5, Calveth itself ..." >&2
.venv/bin/python -m pip install --quiet --disable-pip-version-check --no-compile --no-deps \
    --no-build-isolation --target "$work/own" . >&2
cp -r "$work/own/calveth" "$lib/"

# What no part of it asks for: Qt's other rooms and tools, tests of others, notes for type checkers.
(
    cd "$lib"
    rm -rf bin setuptools setuptools-* _distutils_hack distutils-precedence.pth pkg_resources
    find . -name '*.pyi' -delete
    find . -type d \( -name tests -o -name testing \) -path '*/*/*' \
        \( -path './scipy/*' -o -path './pandas/*' -o -path './numba/*' -o -path './pvlib/*' \
        -o -path './h5py/*' \) -prune -exec rm -rf {} +
    cd PySide6
    rm -rf Qt/qml Qt/translations Qt/libexec Qt/metatypes Qt/resources include typesystems glue \
        scripts support assistant designer linguist lrelease lupdate qmlformat qmllint qmlls \
        svgtoqml balsam* qsb
    for room in Designer Help HttpServer Qml Quick QuickControls2 QuickTest QuickWidgets Sql Test \
        UiTools Concurrent; do
        rm -f "Qt$room.abi3.so"
    done
    rm -f Qt/lib/libQt6Quick* Qt/lib/libQt6Qml* Qt/lib/libQt6Labs* Qt/lib/libQt6Lottie* \
        Qt/lib/libQt6Designer* Qt/lib/libQt6Help* Qt/lib/libQt6Sql* Qt/lib/libQt6UiTools* \
        Qt/lib/libQt6Test* Qt/lib/libQt6WaylandCompositor*
    cd Qt/plugins
    rm -rf designer qmllint qmltooling sqldrivers tls networkinformation vectorimageformats \
        wayland-graphics-integration-server egldeviceintegrations
)

echo "3 of 5, bytecode ..." >&2
$python -m compileall -q -j 0 --invalidation-mode unchecked-hash -s "$root" "$lib" >/dev/null || true

echo "4 of 5, menu entry and papers ..." >&2
mkdir -p "$root/usr/bin" "$root/usr/share/doc/calveth" "$root/DEBIAN"
cat >"$root/usr/bin/calveth" <<END
#!/bin/sh
# Where it lies decides what it runs, so that it works from any root.
lib=\$(dirname "\$(readlink -f "\$0")")/../lib/calveth
PYTHONPATH=\$lib PYTHONNOUSERSITE=1 exec /usr/bin/python$minor -m calveth.cli.entry "\$@"
END
chmod 755 "$root/usr/bin/calveth"
# Without programs on the path nothing refreshes the folders of a package that is not installed.
env PATH=/nowhere "$(pwd)/.venv/bin/calveth" integrate --data "$root/usr/share" --command calveth \
    >/dev/null
cp LICENSE "$root/usr/share/doc/calveth/copyright"
cp CHANGELOG.md "$root/usr/share/doc/calveth/"
cat >"$root/DEBIAN/control" <<END
Package: calveth
Version: $version
Architecture: $machine
Maintainer: Calveth developers <calveth@example.invalid>
Installed-Size: $(du -sk "$root/usr" | cut -f1)
Depends: python$minor, libc6, libstdc++6, libglib2.0-0, libgl1, libegl1, libxkbcommon0, libfreetype6,
 libfontconfig1, libdbus-1-3, libxkbcommon-x11-0, libxcb-cursor0, libxcb-icccm4, libxcb-image0,
 libxcb-keysyms1, libxcb-randr0, libxcb-render-util0, libxcb-shape0
Section: science
Priority: optional
Description: plan an insulated bee hive before you build it
 Heat loss, condensation and air of a bee hive for chosen materials, thicknesses, cavity and
 climate, hour by hour through a year; cut lists, weights, and a diary of hives that stand.
END

echo "5 of 5, packing ..." >&2
mkdir -p "$target"
file=$target/calveth_${version}_$machine.deb
dpkg-deb --root-owner-group -Zzstd --build "$root" "$file" >/dev/null
echo "wrote $file, $(du -m "$file" | cut -f1) MB ($(du -sm "$root/usr" | cut -f1) MB installed)"
