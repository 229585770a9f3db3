#include "model/reference.h"

namespace yc {

std::string_view name_of(Role role) {
  switch (role) {
    case Role::source:
      return "source";
    case Role::script:
      return "script";
    case Role::subfolder:
      return "subfolder";
    case Role::search_root:
      return "search root";
    case Role::include:
      return "include";
    case Role::pattern:
      return "pattern";
    case Role::argument:
      return "argument";
    case Role::listed:
      return "listed";
    case Role::product:
      return "product";
    case Role::link:
      return "link";
    case Role::module:
      return "module";
  }
  return "";
}

Reference Reference::of(Role role, std::uint8_t format, SiteChain construct, Base base, TracedText text) {
  Reference out;
  out.role = role;
  out.format = format;
  out.construct = std::move(construct);
  out.base = std::move(base);
  out.text = std::move(text);
  return out;
}

Reference Reference::in(ConstructPart of_which) && {
  construct_part = std::move(of_which);
  return std::move(*this);
}

Reference Reference::guessed() && {
  certainty = Certainty::likely;
  may_gain = true;
  return std::move(*this);
}

Reference Reference::as_sure_as(Certainty known) && {
  certainty = known;
  may_gain = known == Certainty::likely;
  return std::move(*this);
}

Reference Reference::likely() && {
  certainty = Certainty::likely;
  return std::move(*this);
}

Reference Reference::spelled_by_format(std::string lead) && {
  kind = OwnSpelling{std::move(lead)};
  return std::move(*this);
}

Reference Reference::leading_to(RelPath path, Target::Kind as) && {
  lead_to(std::move(path), as);
  return std::move(*this);
}

}  // namespace yc
