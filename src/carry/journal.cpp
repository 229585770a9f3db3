#include "carry/journal.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "carry/digest.h"

namespace yc {

namespace {

using nlohmann::json;

constexpr std::string_view kMagic = "yellow-compass journal 4 ";
constexpr std::uint64_t kWorthReading = 64'000'000;  // bytes

// Paths and commands may hold any bytes; JSON holds them percent-encoded where they are not plain ASCII.
std::string encode(const std::string& text) {
  std::string out;
  for (char c : text) {
    unsigned char byte = static_cast<unsigned char>(c);
    if (byte < 0x20 || byte > 0x7e || byte == '%') {
      out += fmt::format("%{:02X}", byte);
    } else {
      out += c;
    }
  }
  return out;
}

std::string decode(const std::string& text) {
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] == '%' && i + 2 < text.size()) {
      out += static_cast<char>(std::stoi(text.substr(i + 1, 2), nullptr, 16));
      i += 2;
    } else {
      out += text[i];
    }
  }
  return out;
}

// A path as it was written; one that leads out of the tree would be a damaged or foreign journal.
RelPath path_in(const json& item) {
  std::string text = decode(item.get<std::string>());
  auto path = RelPath::resolve({}, text);
  if (!path || path->str() != text || path->is_root())
    throw std::invalid_argument("\"" + item.get<std::string>() + "\" is no path in the tree");
  return *path;
}

// A whole number; one with a fraction or an exponent may be too large for any.
template <typename Number>
Number number_in(const json& item) {
  if (!item.is_number_integer()) throw std::invalid_argument("a number is none");
  return item.get<Number>();
}

json to_json(const Journal& journal) {
  json out;
  out["command"] = encode(journal.command);
  out["time"] = journal.time;
  for (const char* list : {"requested", "items", "nested", "made", "removed", "made_files", "dropped_files"})
    out[list] = json::array();
  for (const Move& move : journal.requested)
    out["requested"].push_back({{"from", encode(move.from.str())}, {"to", encode(move.to.str())}});
  for (const JournalItem& item : journal.items) {
    json one = {{"from", encode(item.from.str())}, {"inode", item.inode}, {"before", item.before}};
    if (item.moves()) one["to"] = encode(item.to.str());
    if (item.kind == EntryKind::link) one["link"] = true;
    if (item.is_edited()) {
      one["after"] = item.after;
      one["staged"] = item.staged_inode;
      one["original"] = item.original_inode;
    }
    if (!item.blob.empty()) one["blob"] = item.blob;
    if (item.unlisted) one["unlisted"] = true;
    out["items"].push_back(std::move(one));
  }
  for (const JournalNested& nested : journal.nested)
    out["nested"].push_back({{"from", encode(nested.move.from.str())},
                             {"to", encode(nested.move.to.str())},
                             {"git_dir", encode(nested.git_dir)},
                             {"blob", nested.blob}});
  for (const JournalFolder& folder : journal.made)
    out["made"].push_back({{"path", encode(folder.path.str())}});
  for (const JournalFolder& folder : journal.removed)
    out["removed"].push_back({{"path", encode(folder.path.str())}, {"mode", folder.mode}});
  for (const JournalChange& change : journal.made_files)
    out["made_files"].push_back({{"path", encode(change.path.str())}, {"hash", change.hash}});
  for (const JournalChange& change : journal.dropped_files) {
    out["dropped_files"].push_back({{"path", encode(change.path.str())}, {"hash", change.hash}});
    if (change.is_output) out["dropped_files"].back()["output"] = true;
  }
  return out;
}

std::vector<JournalChange> changes_in(const json& in, const char* key) {
  std::vector<JournalChange> out;
  for (const json& one : in.at(key))
    out.push_back({path_in(one.at("path")), one.at("hash").get<std::string>(),
                   one.contains("output") && one.at("output").get<bool>()});
  return out;
}

Journal from_json(const json& in) {
  Journal out;
  out.command = decode(in.at("command").get<std::string>());
  out.time = number_in<std::int64_t>(in.at("time"));
  for (const json& item : in.at("requested"))
    out.requested.push_back({path_in(item.at("from")), path_in(item.at("to"))});
  for (const json& one : in.at("items")) {
    JournalItem item;
    item.from = path_in(one.at("from"));
    item.to = one.contains("to") ? path_in(one.at("to")) : item.from;
    item.kind = one.value("link", false) ? EntryKind::link : EntryKind::file;
    item.inode = number_in<std::uint64_t>(one.at("inode"));
    item.before = one.at("before").get<std::string>();
    item.after = one.value("after", item.before);
    item.staged_inode = one.contains("staged") ? number_in<std::uint64_t>(one["staged"]) : 0;
    item.original_inode = one.contains("original") ? number_in<std::uint64_t>(one["original"]) : 0;
    item.unlisted = one.value("unlisted", false);
    item.blob = one.value("blob", "");
    out.items.push_back(std::move(item));
  }
  for (const json& one : in.at("nested"))
    out.nested.push_back({{path_in(one.at("from")), path_in(one.at("to"))},
                          decode(one.at("git_dir").get<std::string>()),
                          one.at("blob").get<std::string>()});
  for (const json& folder : in.at("made")) out.made.push_back({path_in(folder.at("path")), 0});
  for (const json& folder : in.at("removed"))
    out.removed.push_back({path_in(folder.at("path")), number_in<unsigned>(folder.at("mode"))});
  out.made_files = changes_in(in, "made_files");
  out.dropped_files = changes_in(in, "dropped_files");
  return out;
}

Result<Journal> parse(const State& state, const std::string& path, const std::string& text) {
  auto refused = [&](const std::string& what) {
    return Error{Failure::unsettled, path, what,
                 "it is left untouched; look at it, then move its folder away to go on without it"};
  };
  std::size_t line = text.find('\n');
  if (line == std::string::npos || !text.starts_with(kMagic))
    return refused("is not a journal of this version");
  std::string body = text.substr(line + 1);
  if (!state.fits(body, std::string_view(text).substr(kMagic.size(), line - kMagic.size())))
    return refused("is damaged, or was not written by you on this machine: its signature does not fit");
  auto journal = journal_from_text(body);
  return journal ? std::move(journal) : Result<Journal>(refused(journal.error().message));
}

// The names that the files in a journal's folder have.
bool is_journals_own(const std::string& name) {
  for (std::string_view known :
       {"draft", "journal", "patch", "index", "config", "done", "undoing", "undone"}) {
    if (name == known) return true;
  }
  for (std::string_view head : {"original-", "staged-", "aside-", "made-", "dropped-"}) {
    if (name.starts_with(head)) return true;
  }
  return false;
}

int journal_number(const std::string& name) {
  bool digits = !name.empty() && name.size() < 9 &&
                std::all_of(name.begin(), name.end(), [](char c) { return c >= '0' && c <= '9'; });
  return digits ? std::stoi(name) : 0;
}

}  // namespace

std::string StoredJournal::original(std::size_t item) const {
  return fmt::format("{}/original-{}", folder, item);
}

std::string StoredJournal::staged(std::size_t item) const {
  return fmt::format("{}/staged-{}", folder, item);
}

std::string StoredJournal::aside(std::size_t item) const {
  return fmt::format("{}/aside-{}", folder, item);
}

std::string StoredJournal::made_file(std::size_t change) const {
  return fmt::format("{}/made-{}", folder, change);
}

std::string StoredJournal::dropped_file(std::size_t change) const {
  return fmt::format("{}/dropped-{}", folder, change);
}

Result<std::string> identity(FileSystem& disk, const std::string& path, bool is_edited) {
  auto info = disk.info(path);
  if (!info) return info.error();
  bool is_large = info->kind == EntryKind::file && info->size > kWorthReading && !is_edited;
  return identity_like(disk, path, is_large ? "stat:" : "");
}

Result<std::string> identity_like(FileSystem& disk, const std::string& path, std::string_view known) {
  if (!known.starts_with("stat:")) return disk.digest(path);
  auto info = disk.info(path);
  if (!info) return info.error();
  return fmt::format("stat:{}:{}", info->size, info->mtime_ns);
}

Result<Journal> journal_from_text(const std::string& body) {
  auto damaged = [](const std::string& what) {
    return Error{Failure::unsettled, "", "is damaged: " + what, ""};
  };
  // What nests deeper than a record does is none, and could nest too deeply for the library.
  constexpr int kDeepest = 8;
  bool is_too_deep = false;
  auto watch = [&](int depth, json::parse_event_t, json&) {
    return !(is_too_deep = is_too_deep || depth > kDeepest);
  };
  json parsed = json::parse(body, watch, false);
  if (parsed.is_discarded() || is_too_deep) return damaged("it is no JSON that a journal could be");
  try {
    return from_json(parsed);
  } catch (const std::exception& problem) {  // what the library throws for a missing or mistyped field
    return damaged(problem.what());
  }
}

Result<StoredJournal> begin_journal(FileSystem& disk, const State& state) {
  if (!disk.exists(state.journals())) {
    if (Status ok = disk.make_folder(state.journals(), 0); !ok) return ok.error();
  }
  auto names = disk.list(state.journals());
  if (!names) return names.error();
  StoredJournal stored;
  for (const std::string& name : *names) stored.number = std::max(stored.number, journal_number(name));
  ++stored.number;
  stored.folder = fmt::format("{}/{:06}", state.journals(), stored.number);
  if (Status ok = disk.make_folder(stored.folder, 0); !ok) return ok.error();
  return stored;
}

Status write_journal(FileSystem& disk, const State& state, const StoredJournal& stored) {
  std::string body = to_json(stored.journal).dump() + "\n";
  std::string text = std::string(kMagic) + state.sign(body) + "\n" + body;
  std::string draft = stored.folder + "/draft";
  if (Status ok = disk.write_new(draft, text, 0600); !ok) return ok;
  // What the journal speaks of must be on the disk before the journal is.
  if (Status ok = disk.sync_folder(stored.folder); !ok) return ok;
  if (Status ok = disk.rename_new(draft, stored.folder + "/journal"); !ok) return ok;
  if (Status ok = disk.sync_folder(stored.folder); !ok) return ok;
  if (Status ok = disk.sync_folder(state.journals()); !ok) return ok;
  return disk.sync_folder(state.folder());
}

Result<std::vector<StoredJournal>> read_journals(FileSystem& disk, const State& state) {
  std::vector<StoredJournal> out;
  if (!state.is_there() || !disk.exists(state.journals())) return out;
  auto names = disk.list(state.journals());
  if (!names) return names.error();
  for (const std::string& name : *names) {
    StoredJournal stored;
    stored.number = journal_number(name);
    stored.folder = state.journals() + "/" + name;
    std::string file = stored.folder + "/journal";
    if (stored.number == 0) continue;
    auto info = disk.info(stored.folder);
    if (!info) return info.error();
    if (info->kind != EntryKind::folder)
      return Error{Failure::unsettled, stored.folder, "is a link or a file where a journal's folder belongs",
                   "look where it leads, then move it away"};
    if (!disk.exists(file)) continue;
    auto text = disk.read(file);
    if (!text) return text.error();
    auto journal = parse(state, file, *text);
    if (!journal) return journal.error();
    stored.journal = std::move(*journal);
    stored.done = disk.exists(stored.folder + "/done");
    stored.undoing = disk.exists(stored.folder + "/undoing");
    stored.undone = disk.exists(stored.folder + "/undone");
    out.push_back(std::move(stored));
  }
  std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.number < b.number; });
  return out;
}

Status mark(FileSystem& disk, const StoredJournal& stored, const std::string& name) {
  if (disk.exists(stored.folder + "/" + name)) return {};
  if (Status ok = disk.write_new(stored.folder + "/" + name, "", 0600); !ok) return ok;
  return disk.sync_folder(stored.folder);
}

Status unmark(FileSystem& disk, const StoredJournal& stored, const std::string& name) {
  if (!disk.exists(stored.folder + "/" + name)) return {};
  if (Status ok = disk.remove_file(stored.folder + "/" + name); !ok) return ok;
  return disk.sync_folder(stored.folder);
}

void discard(FileSystem& disk, const StoredJournal& stored) {
  std::string journal = stored.folder + "/journal";
  if (disk.exists(journal) && !disk.remove_file(journal)) return;
  if (auto names = disk.list(stored.folder)) {
    for (const std::string& name : *names) {
      if (is_journals_own(name)) (void)disk.remove_file(stored.folder + "/" + name);
    }
  }
  (void)disk.remove_folder(stored.folder);
}

void sweep(FileSystem& disk, const State& state) {
  auto names = disk.exists(state.journals()) ? disk.list(state.journals()) : std::vector<std::string>();
  if (!names) return;
  for (const std::string& name : *names) {
    StoredJournal stored;
    stored.folder = state.journals() + "/" + name;
    if (journal_number(name) > 0 && !disk.exists(stored.folder + "/journal")) discard(disk, stored);
  }
}

}  // namespace yc
