#include "carry/journal.h"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "base/hash.h"

namespace yc {

namespace {

using nlohmann::json;

constexpr std::string_view kMagic = "yellow-compass journal 1 ";

// Paths may hold any bytes; JSON holds them percent-encoded where they are not plain ASCII.
std::string encode(const RelPath& path) {
  std::string out;
  for (char c : path.str()) {
    unsigned char byte = static_cast<unsigned char>(c);
    if (byte < 0x20 || byte > 0x7e || byte == '%') {
      out += fmt::format("%{:02X}", byte);
    } else {
      out += c;
    }
  }
  return out;
}

RelPath decode(const std::string& text) {
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] == '%' && i + 2 < text.size()) {
      out += static_cast<char>(std::stoi(text.substr(i + 1, 2), nullptr, 16));
      i += 2;
    } else {
      out += text[i];
    }
  }
  return RelPath::from_normal(std::move(out));
}

json to_json(const Journal& journal) {
  json out;
  out["command"] = journal.command;
  out["time"] = journal.time;
  out["moves"] = json::array();
  for (const JournalMove& item : journal.moves) {
    out["moves"].push_back(
        {{"from", encode(item.move.from)}, {"to", encode(item.move.to)}, {"hash", item.hash}});
  }
  out["edits"] = json::array();
  for (const JournalEdit& item : journal.edits) {
    out["edits"].push_back({{"from", encode(item.from)},
                            {"to", encode(item.to)},
                            {"mode", item.mode},
                            {"before", item.hash_before},
                            {"after", item.hash_after}});
  }
  for (const RelPath& folder : journal.made) out["made"].push_back(encode(folder));
  for (const RelPath& folder : journal.removed) out["removed"].push_back(encode(folder));
  return out;
}

Journal from_json(const json& in) {
  Journal out;
  out.command = in.at("command").get<std::string>();
  out.time = in.at("time").get<std::int64_t>();
  for (const json& item : in.at("moves")) {
    out.moves.push_back(
        {{decode(item.at("from")), decode(item.at("to"))}, item.at("hash").get<std::string>()});
  }
  for (const json& item : in.at("edits")) {
    out.edits.push_back({decode(item.at("from")), decode(item.at("to")), item.at("mode").get<unsigned>(),
                         item.at("before").get<std::string>(), item.at("after").get<std::string>()});
  }
  for (const json& item : in.value("made", json::array())) out.made.push_back(decode(item));
  for (const json& item : in.value("removed", json::array())) out.removed.push_back(decode(item));
  return out;
}

Result<Journal> parse(const std::string& path, const std::string& text) {
  auto damaged = [&](const std::string& what) {
    return Error{Failure::io, path, what, "it is left untouched; move it away to go on without it"};
  };
  std::size_t line = text.find('\n');
  if (line == std::string::npos || text.compare(0, kMagic.size(), kMagic) != 0)
    return damaged("is not a journal of this version");
  std::string body = text.substr(line + 1);
  if (text.substr(kMagic.size(), line - kMagic.size()) != content_hash(body))
    return damaged("is damaged: its checksum does not fit");
  json parsed = json::parse(body, nullptr, false);
  if (parsed.is_discarded()) return damaged("is damaged: it is not JSON");
  try {
    return from_json(parsed);
  } catch (const std::exception& problem) {  // what the library throws for a missing or mistyped field
    return damaged(std::string("is damaged: ") + problem.what());
  }
}

}  // namespace

Result<StoredJournal> write_journal(FileSystem& disk, const std::string& state, const Journal& journal,
                                    const std::vector<std::string>& originals) {
  std::string journals = state + "/journals";
  for (const std::string& folder : {state, journals}) {
    if (disk.exists(folder)) continue;
    if (Status ok = disk.make_folder(folder); !ok) return ok.error();
  }
  // A state folder in the tree itself keeps out of version control by its own ignore file.
  if (std::filesystem::path(state).filename() == ".yellow-compass" && !disk.exists(state + "/.gitignore")) {
    if (Status ok = disk.write_new(state + "/.gitignore", "*\n", 0644); !ok) return ok.error();
  }
  StoredJournal stored;
  stored.journal = journal;
  for (stored.number = 1;; ++stored.number) {
    stored.folder = fmt::format("{}/{:06}", journals, stored.number);
    if (!disk.exists(stored.folder)) break;
  }
  if (Status ok = disk.make_folder(stored.folder); !ok) return ok.error();
  auto give_up = [&](const Status& status) {
    discard(stored);
    return status.error();
  };
  for (std::size_t i = 0; i < originals.size(); ++i) {
    Status ok = disk.write_new(fmt::format("{}/original-{}", stored.folder, i), originals[i], 0600);
    if (!ok) return give_up(ok);
  }
  std::string body = to_json(journal).dump(-1, ' ', true, json::error_handler_t::replace) + "\n";
  std::string text = std::string(kMagic) + content_hash(body) + "\n" + body;
  if (Status ok = disk.write_new(stored.folder + "/journal", text, 0600); !ok) return give_up(ok);
  if (Status ok = disk.sync_folder(stored.folder); !ok) return give_up(ok);
  if (Status ok = disk.sync_folder(journals); !ok) return give_up(ok);
  return stored;
}

Result<std::vector<StoredJournal>> read_journals(FileSystem& disk, const std::string& state) {
  std::vector<StoredJournal> out;
  std::error_code error;
  for (const auto& item : std::filesystem::directory_iterator(state + "/journals", error)) {
    std::string name = item.path().filename().string();
    if (name.empty() || name.find_first_not_of("0123456789") != std::string::npos) continue;
    StoredJournal stored;
    stored.number = std::stoi(name);
    stored.folder = item.path().string();
    std::string file = stored.folder + "/journal";
    if (!disk.exists(file)) continue;  // its writing was cut short, so nothing was changed yet
    auto text = disk.read(file);
    if (!text) return text.error();
    auto journal = parse(file, *text);
    if (!journal) return journal.error();
    stored.journal = std::move(*journal);
    stored.done = disk.exists(stored.folder + "/done");
    stored.undone = disk.exists(stored.folder + "/undone");
    out.push_back(std::move(stored));
  }
  std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.number < b.number; });
  return out;
}

Status mark(FileSystem& disk, const StoredJournal& journal, const std::string& name) {
  if (Status ok = disk.write_new(journal.folder + "/" + name, "", 0600); !ok) return ok;
  return disk.sync_folder(journal.folder);
}

void discard(const StoredJournal& journal) {
  std::error_code ignored;
  std::filesystem::remove_all(journal.folder, ignored);
}

}  // namespace yc
