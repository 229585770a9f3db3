// What is in a tree, as text for a terminal: cut to about a screen, if not all is asked for.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "inspect/inspect.h"
#include "plan/explained.h"
#include "report/text.h"

namespace yc::report {

// The names that an alias gives, and what they stand for, with a star for what is open.
std::string alias_name(const Alias& alias);
std::string alias_place(const Alias& alias);
// `observed`: what observed builds read, if there are any.
std::string survey_text(const Survey& survey, const std::optional<Explained>& observed,
                        const std::string& root, const std::vector<std::string>& settings,
                        const TextStyle& style);
// In words, why a file is not read whole.
std::string unread_text(Unread why);

}  // namespace yc::report
