#!/usr/bin/env bash
# What the tests need of the system: a browser, PDF tools and decoders, a recorder of system calls, models of languages, Java for
# the PDF/A validator. Installs what is missing from Debian's packages, and the validator's jars into a cache outside the
# checkout.
set -euo pipefail
cd "$(dirname "$0")/.."
missing=()
need() { command -v "$1" >/dev/null || missing+=("$2"); }
need chromium chromium
need pdftotext poppler-utils
need mutool mupdf-tools
need qpdf qpdf
need jbig2dec jbig2dec
need strace strace
need javac default-jdk-headless
# The browser driver's own Node links it.
compgen -G '/usr/lib/*/libatomic.so.1*' >/dev/null || missing+=(libatomic1)
need mvn maven
# Languages that the tests read in, beside those that come with the program.
for language in nld fra spa ita pol ell rus frk; do
  compgen -G "/usr/share/tesseract-ocr/*/tessdata/$language.traineddata" >/dev/null || missing+=("tesseract-ocr-$language")
done
if [ ${#missing[@]} -gt 0 ]; then
  echo "installing ${missing[*]}"
  as_root=()
  [ "$(id -u)" = 0 ] || as_root=(sudo)
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get update -qq
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
fi
cache="${XDG_CACHE_HOME:-$HOME/.cache}/hollowstack/pdfa-check-1.28.2"
if [ ! -e "$cache/.complete" ]; then
  echo "fetching the PDF/A validator"
  mkdir -p "$cache"
  mvn -q -B -f tests/reference/pdfa/pom.xml dependency:copy-dependencies -DoutputDirectory="$cache"
  touch "$cache/.complete"
fi
