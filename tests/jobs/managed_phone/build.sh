project=$(find . -name Gauges.xcodeproj)
python3 "$STANDINS/property_list_project.py" . >listed
if grep missing listed; then exit 1; fi
# As the project says: its settings lead to the packet's header, and sources beside one another find each other.
for source in $(awk '$2 == "compiled" { print $3 }' listed); do
  roots=$(awk '$2 == "root" && $3 != "" { print "-I" $3 }' listed)
  gcc -c $roots -iquote "$(dirname "$(find . -name tide_view.h)")" -o /dev/null "$source"
done
test "$(awk '$2 == "compiled"' listed | wc -l)" = 3
test -d "$project"
