# Sourced by the programs in bin/: goes to the clone's root and checks that Node.js is there and new enough.
cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")/../.."
if ! command -v node >/dev/null 2>&1; then
  echo "Pazienza cannot go on: Node.js is missing. Install version $(cat .nvmrc) or newer." >&2
  exit 1
fi
if ! node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 20) ? 0 : 1)'; then
  echo "Pazienza cannot go on: it needs Node.js $(cat .nvmrc) or newer; this is $(node --version)." >&2
  exit 1
fi
if ! command -v npm >/dev/null 2>&1; then
  echo "Pazienza cannot go on: npm is missing. It comes with Node.js from nodejs.org; on Debian, install the package npm." >&2
  exit 1
fi
