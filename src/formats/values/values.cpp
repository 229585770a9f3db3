#include "formats/values/values.h"

#include "formats/json/json_strings.h"
#include "formats/xml/xml_places.h"

namespace yc::values {

namespace {

std::vector<Value> read_json(std::string_view bytes) {
  std::vector<Value> out;
  for (json::StringValue& value : json::string_values(bytes)) {
    bool verbatim = bytes.substr(value.span.begin, value.span.size()) == value.text;
    out.push_back({std::move(value.path), value.span, std::move(value.text), kJson, verbatim});
  }
  return out;
}

std::vector<Value> read_xml(std::string_view bytes) {
  std::vector<Value> out;
  auto elements = xml::elements(bytes);
  if (!elements) return out;
  auto add = [&](const xml::Element& element, const std::string& name, const std::string& text, Span span) {
    // What entities spell is not cut into.
    bool verbatim = text.find('&') == std::string::npos && bytes.substr(span.begin, span.size()) == text;
    if (verbatim) out.push_back({{element.parent, element.name, name}, span, text, kXml, true});
  };
  for (const xml::Element& element : *elements) {
    for (const xml::Attribute& attribute : element.attributes)
      add(element, attribute.name, attribute.value, attribute.span);
    if (!element.text.empty()) add(element, "", element.text, element.text_span);
  }
  return out;
}

std::string with_doubled(std::string_view text, char mark) {
  std::string out;
  for (char c : text) {
    out += c;
    if (c == mark) out += c;
  }
  return out;
}

bool is_plain_yaml(std::string_view text) {
  if (text.empty() || text.find_first_of("\n\r\t{}[],\"'`") != std::string_view::npos) return false;
  if (std::string_view("!&*?|>%@#-: ").find(text[0]) != std::string_view::npos || text.back() == ' ')
    return false;
  return text.find(": ") == std::string_view::npos && text.find(" #") == std::string_view::npos &&
         text.back() != ':';
}

}  // namespace

std::optional<Language> language_of(const RelPath& path) {
  std::string_view ending = path.extension();
  struct Known {
    std::string_view ending;
    Language language;
  };
  static constexpr Known kKnown[] = {
      {".json", Language::json},     {".jsonc", Language::json},     {".json5", Language::json},
      {".gltf", Language::json},     {".tmj", Language::json},       {".tsj", Language::json},
      {".ldtk", Language::json},     {".geojson", Language::json},   {".webmanifest", Language::json},
      {".toml", Language::toml},     {".yaml", Language::yaml},      {".yml", Language::yaml},
      {".xml", Language::xml},       {".tmx", Language::xml},        {".tsx", Language::xml},
      {".plist", Language::xml},     {".cbp", Language::xml},        {".project", Language::xml},
      {".workspace", Language::xml}, {".nuspec", Language::xml},     {".dae", Language::xml},
      {".fnt", Language::xml},       {".conf", Language::ini},       {".properties", Language::ini},
      {".desktop", Language::ini},   {".csv", Language::csv},        {".tsv", Language::csv},
      {".mtl", Language::lines},     {".atlas", Language::lines},    {".lst", Language::lines},
      {".list", Language::lines},    {".filelist", Language::lines}, {".manifest", Language::lines},
      {".m3u", Language::lines},     {".m3u8", Language::lines},     {".material", Language::lines},
      {".theme", Language::ini},     {".ini", Language::ini},        {".cfg", Language::ini}};
  for (const Known& known : kKnown) {
    if (ending == known.ending) return known.language;
  }
  return std::nullopt;
}

std::vector<Value> read(std::string_view bytes, Language language) {
  switch (language) {
    case Language::json:
      return read_json(bytes);
    case Language::toml:
      return read_toml(bytes);
    case Language::yaml:
      return read_yaml(bytes);
    case Language::xml:
      return read_xml(bytes);
    case Language::ini:
      return read_ini(bytes);
    case Language::csv:
      return read_csv(bytes);
    case Language::lines:
      return read_lines(bytes);
  }
  return {};
}

TracedText traced(const Value& value, FileIndex file) {
  TracedText out;
  Piece piece;
  piece.text = value.text;
  piece.file = file;
  piece.span = value.span;
  piece.style = value.style;
  piece.verbatim = value.verbatim;
  out.append(std::move(piece));
  return out;
}

std::optional<std::string> written(std::string_view text, WritingStyle style) {
  bool breaks = text.find_first_of("\n\r") != std::string_view::npos;
  switch (style) {
    case kJson:
    case kTomlBasic:
    case kYamlDouble:
      return json::escaped(text);
    case kTomlLiteral:
      return breaks || text.find('\'') != std::string_view::npos ? std::nullopt
                                                                 : std::optional(std::string(text));
    case kYamlPlain:
      return is_plain_yaml(text) ? std::optional(std::string(text)) : std::nullopt;
    case kYamlSingle:
      return breaks ? std::nullopt : std::optional(with_doubled(text, '\''));
    case kXml:
      return breaks ? std::nullopt : std::optional(xml::escaped(std::string(text)));
    case kWord:
      if (text.find_first_of(" \t") != std::string_view::npos) return std::nullopt;
      [[fallthrough]];
    case kBareLine:
      return breaks || text.find_first_of("#;\"'") != std::string_view::npos
                 ? std::nullopt
                 : std::optional(std::string(text));
    case kCsvBare:
      return breaks || text.find_first_of(",;\t\"") != std::string_view::npos
                 ? std::nullopt
                 : std::optional(std::string(text));
    case kCsvQuoted:
      return breaks ? std::nullopt : std::optional(with_doubled(text, '"'));
    default:
      return std::nullopt;
  }
}

}  // namespace yc::values
