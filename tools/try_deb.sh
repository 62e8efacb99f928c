#!/bin/sh
# Installs the package in a clean root and runs it there:  tools/try_deb.sh PACKAGE.deb  (as root)
# It needs debootstrap; the root is made in a folder that is deleted afterwards.
set -eu
package=$1
command -v debootstrap >/dev/null || {
    echo "This system lacks debootstrap; install it with:  sudo apt-get install debootstrap" >&2
    exit 2
}
suite=$(. /etc/os-release && echo "$VERSION_CODENAME")
mirror=$(apt-get indextargets --format '$(SITE)' | head -1)
root=$(mktemp -d)
chmod 755 "$root"
trap 'umount "$root/proc" 2>/dev/null || true; rm -rf "$root"' EXIT
echo "== a clean root of $suite"
debootstrap --variant=minbase "$suite" "$root" "$mirror" >"$root.log" 2>&1 || {
    tail -5 "$root.log" >&2
    exit 1
}
cp /etc/apt/apt.conf.d/* "$root/etc/apt/apt.conf.d/" 2>/dev/null || true
cp "$package" "$root/calveth.deb"
mount -t proc proc "$root/proc" 2>/dev/null || true
inside() { chroot "$root" env -i PATH=/usr/bin:/bin:/usr/sbin:/sbin LC_ALL=C.UTF-8 "$@"; }
inside apt-get update -qq
inside env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends \
    /calveth.deb >"$root.apt" 2>&1 || {
    tail -20 "$root.apt" >&2
    exit 1
}
inside useradd -m keeper
echo "== calveth verify, as a user of that root"
inside su keeper -c 'cd && calveth --version && calveth verify | tail -3'
echo "== a picture of every main view"
inside su keeper -c 'cd && calveth demo --screenshots pictures | tail -1 && ls pictures | wc -l'
echo "== taken away again"
inside apt-get remove -y -qq calveth >/dev/null 2>&1
inside sh -c 'ls /usr/lib/calveth 2>/dev/null | wc -l'
rm -f "$root.log" "$root.apt"
