# What the scripts of the jobs are made of. A script runs in a copy of its job's tree; $JOB is the job's folder,
# $PRISTINE a second copy that stays as it was, $PROGRAM the built program.

yc() { "$PROGRAM" --color never "$@"; }

fault() {
  echo "FAULT: $*" >&2
  exit 1
}

# The project builds from clean: in a copy, so that nothing that a build leaves behind helps the next one.
builds() {
  rm -rf "$PRISTINE.build"
  cp -a . "$PRISTINE.build"
  (cd "$PRISTINE.build" && sh -eu "$JOB/build.sh" >"$PRISTINE.log" 2>&1) || {
    cat "$PRISTINE.log" >&2
    fault "does not build${1:+ ($1)}"
  }
}

breaks() {
  rm -rf "$PRISTINE.build"
  cp -a . "$PRISTINE.build"
  if (cd "$PRISTINE.build" && sh -eu "$JOB/build.sh" >"$PRISTINE.log" 2>&1); then fault "builds, and should not"; fi
}

# done_with ARGUMENTS: the command is carried out, and what it says is in $SAID.
SAID=
does() {
  status=0
  SAID=$(yc "$@" 2>&1) || status=$?
  [ "$status" = 0 ] || fault "exit status $status of: $*
$SAID"
}

says() {
  case $SAID in *"$1"*) ;; *) fault "does not say \"$1\":
$SAID" ;; esac
}

refuses() {
  status=0
  SAID=$(yc "$@" 2>&1) || status=$?
  [ "$status" = 3 ] || fault "exit status $status, not 3, of: $*
$SAID"
}

clean() {
  status=0
  SAID=$(yc check 2>&1) || status=$?
  [ "$status" = 0 ] || fault "check is not clean:
$SAID"
}

# finds ID FILE: check tells it (a note counts).
finds() {
  SAID=$(yc check 2>&1) || true
  yc check --format json 2>/dev/null | python3 -c '
import json, sys
wanted_id, wanted_file = sys.argv[1:]
for each in json.load(sys.stdin):
    if each["id"] == wanted_id and each["file"] == wanted_file:
        sys.exit(0)
sys.exit(1)' "$1" "$2" || fault "check does not find $1 at $2:
$SAID"
}

# The tree as it was at first, so that the next mistake stands alone.
as_before() {
  find . -mindepth 1 -maxdepth 1 -exec rm -rf {} +
  cp -a "$PRISTINE/." .
}

# Taken back, the tree is what it was, byte for byte.
taken_back() {
  does undo
  diff -r --no-dereference -x .git -x .yellow-compass "$PRISTINE" . || fault "undo left a difference"
}

# has FILE TEXT, lacks FILE TEXT
has() { grep -qF -- "$2" "$1" || fault "$1 does not hold: $2
$(cat "$1")"; }
lacks() { if grep -qF -- "$2" "$1"; then fault "$1 holds: $2"; fi; }
