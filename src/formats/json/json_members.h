// Members of JSON objects: how one is put in, and how one is taken out, without a change to any other.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/edit.h"
#include "formats/json/json_strings.h"

namespace yc::json {

// The value at a path, among all members of a text; null if there is none.
const Member* member_at(const std::vector<Member>& members, const std::vector<std::string>& path);

// Puts `"name": value` into the object at `object`: in the order of names where the others keep it, else at
// the end, as they are laid out. `value` is JSON whose lines after the first are indented by `step` for each
// level. Nothing if there is no such object, or it has that name.
std::optional<Edit> put_member(const RelPath& file, std::string_view bytes,
                               const std::vector<std::string>& object, const std::string& name,
                               const std::string& value);
// The same where the object may be missing in the one around it: it is put there with its only member.
std::optional<Edit> put_in_section(const RelPath& file, std::string_view bytes,
                                   const std::vector<std::string>& section, const std::string& name,
                                   const std::string& value);
// Takes the member at a path out, of an object or an array, with its comma and its line.
std::optional<Edit> drop_member(const RelPath& file, std::string_view bytes,
                                const std::vector<std::string>& path);

// By how much each level of the text is indented; two blanks if nothing shows it.
std::string indent_step(std::string_view bytes);

}  // namespace yc::json
