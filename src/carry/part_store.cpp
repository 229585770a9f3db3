#include "carry/part_store.h"

#include <fcntl.h>
#include <sodium.h>
#include <sqlite3.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cstring>
#include <ctime>
#include <filesystem>

#include "base/handle.h"
#include "base/hash.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

constexpr std::int64_t kMostStored = 400'000'000;  // of all parts together
constexpr std::size_t kMostOfOne = 100'000'000;
constexpr int kMostAlikeParts = 4;  // parts under one key

// A statement that is made, run and taken apart; how the database is asked everything.
class Statement {
 public:
  Statement(sqlite3* database, const char* text) {
    if (sqlite3_prepare_v2(database, text, -1, &statement_, nullptr) != SQLITE_OK) statement_ = nullptr;
  }
  ~Statement() { sqlite3_finalize(statement_); }
  Statement(const Statement&) = delete;
  Statement& operator=(const Statement&) = delete;
  Statement& with(std::string_view bytes) {
    if (statement_) sqlite3_bind_blob64(statement_, ++bound_, bytes.data(), bytes.size(), SQLITE_STATIC);
    return *this;
  }
  Statement& with(std::int64_t number) {
    if (statement_) sqlite3_bind_int64(statement_, ++bound_, number);
    return *this;
  }
  // Whether there is one more row.
  bool step() { return statement_ && sqlite3_step(statement_) == SQLITE_ROW; }
  bool run() { return statement_ && sqlite3_step(statement_) == SQLITE_DONE; }
  std::int64_t number(int column) const { return sqlite3_column_int64(statement_, column); }
  std::string_view bytes(int column) const {
    const void* data = sqlite3_column_blob(statement_, column);
    return {static_cast<const char*>(data),
            data ? static_cast<std::size_t>(sqlite3_column_bytes(statement_, column)) : 0};
  }

 private:
  sqlite3_stmt* statement_ = nullptr;
  int bound_ = 0;
};

std::string packed_hash(std::string_view bytes, std::uint64_t seed) {
  Hash128 hash = seeded_hash(bytes, seed);
  std::string out(sizeof hash, '\0');
  std::memcpy(out.data(), &hash, sizeof hash);
  return out;
}

// A file of this user's alone, made where there is none.
bool is_own_file(const std::string& name) {
  std::error_code error;
  fs::path folder = fs::path(name).parent_path();
  fs::create_directories(folder.parent_path(), error);
  if (mkdir(folder.c_str(), 0700) != 0 && errno != EEXIST) return false;
  Handle file(open(name.c_str(), O_RDWR | O_CREAT | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC, 0600));
  struct stat info {};
  return file && fstat(file.get(), &info) == 0 && S_ISREG(info.st_mode) && info.st_uid == geteuid() &&
         (info.st_mode & 077) == 0;
}

std::int64_t today() {
  return static_cast<std::int64_t>(std::time(nullptr) / (24 * 60 * 60));
}

}  // namespace

class PartStore::Database {
 public:
  // Null if there is none to be had: another program may be writing in it.
  static std::unique_ptr<Database> open(const std::string& file, const std::string& program) {
    if (file.front() != '/' || !is_own_file(file)) return nullptr;
    auto out = std::unique_ptr<Database>(new Database);
    if (!out->begin(file, program)) return nullptr;
    return out;
  }
  ~Database() { sqlite3_close(handle_); }

  std::uint64_t seed() const { return seed_; }

  std::vector<std::string> load(const std::string& key) {
    std::vector<std::string> out;
    std::string place = packed_hash(key, seed_);
    Statement rows(handle_, "SELECT hash, bytes, day, rowid FROM parts WHERE key = ? ORDER BY rowid DESC");
    rows.with(place);
    while (rows.step()) {
      std::string_view bytes = rows.bytes(1);
      if (packed_hash(bytes, seed_) != rows.bytes(0)) continue;  // the disk lost some of it
      out.emplace_back(bytes);
      if (rows.number(2) != today()) used_.push_back(rows.number(3));
    }
    return out;
  }

  void save(const std::string& key, const std::string& bytes) {
    if (bytes.size() > kMostOfOne) return;
    waiting_.emplace_back(packed_hash(key, seed_), bytes);
    waiting_bytes_ += bytes.size();
    if (waiting_bytes_ > kMostWaiting) write();
  }

  // In one transaction, so that other programs wait for no longer than that takes.
  bool write() {
    if (waiting_.empty() && used_.empty()) return true;
    bool done = execute("BEGIN IMMEDIATE") && put() && make_room();
    done = execute(done ? "COMMIT" : "ROLLBACK") && done;
    waiting_.clear();
    used_.clear();
    waiting_bytes_ = 0;
    return done;
  }

 private:
  static constexpr std::size_t kMostWaiting = 10'000'000;

  Database() = default;
  bool execute(const char* text) {
    return sqlite3_exec(handle_, text, nullptr, nullptr, nullptr) == SQLITE_OK;
  }

  bool put() {
    bool done = true;
    for (std::int64_t row : used_)
      done = done &&
             Statement(handle_, "UPDATE parts SET day = ? WHERE rowid = ?").with(today()).with(row).run();
    for (const auto& [place, bytes] : waiting_) {
      std::string hash = packed_hash(bytes, seed_);
      done = done &&
             Statement(handle_, "INSERT INTO parts (key, hash, bytes, day) VALUES (?, ?, ?, ?)")
                 .with(place)
                 .with(hash)
                 .with(bytes)
                 .with(today())
                 .run() &&
             Statement(handle_,
                       "DELETE FROM parts WHERE key = ?1 AND rowid NOT IN "
                       "(SELECT rowid FROM parts WHERE key = ?1 ORDER BY rowid DESC LIMIT ?2)")
                 .with(place)
                 .with(std::int64_t{kMostAlikeParts})
                 .run();
    }
    return done;
  }

  // Those that nobody asked for the longest go first.
  bool make_room() {
    std::int64_t all = 0;
    {
      Statement sum(handle_, "SELECT coalesce(sum(length(bytes)), 0) FROM parts");
      if (sum.step()) all = sum.number(0);
    }
    while (all > kMostStored) {
      std::int64_t row = 0;
      {
        Statement oldest(handle_, "SELECT rowid, length(bytes) FROM parts ORDER BY day, rowid LIMIT 1");
        if (!oldest.step()) return false;
        row = oldest.number(0);
        all -= oldest.number(1);
      }
      if (!Statement(handle_, "DELETE FROM parts WHERE rowid = ?").with(row).run()) return false;
    }
    return true;
  }

  bool begin(const std::string& file, const std::string& program) {
    constexpr int kFlags = SQLITE_OPEN_READWRITE | SQLITE_OPEN_NOMUTEX | SQLITE_OPEN_NOFOLLOW;
    if (sqlite3_open_v2(file.c_str(), &handle_, kFlags, nullptr) != SQLITE_OK) return false;
    constexpr int kPatience = 100;  // milliseconds, for another program that writes
    sqlite3_busy_timeout(handle_, kPatience);
    // What a power loss takes is only read anew.
    if (!execute("PRAGMA synchronous = OFF")) return false;
    if (is_ours(program)) return true;
    if (!execute("BEGIN IMMEDIATE")) return false;
    return execute(is_ours(program) || make_tables(program) ? "COMMIT" : "ROLLBACK") && is_ours(program);
  }

  bool make_tables(const std::string& program) {
    randombytes_buf(&seed_, sizeof seed_);
    return execute("DROP TABLE IF EXISTS parts") && execute("DROP TABLE IF EXISTS program") &&
           execute("CREATE TABLE program (name BLOB, seed INTEGER)") &&
           execute("CREATE TABLE parts (key BLOB, hash BLOB, bytes BLOB, day INTEGER)") &&
           execute("CREATE INDEX parts_by_key ON parts (key)") &&
           Statement(handle_, "INSERT INTO program VALUES (?, ?)")
               .with(program)
               .with(static_cast<std::int64_t>(seed_))
               .run();
  }

  bool is_ours(const std::string& program) {
    Statement row(handle_, "SELECT name, seed FROM program");
    if (!row.step() || row.bytes(0) != program) return false;
    seed_ = static_cast<std::uint64_t>(row.number(1));
    return true;
  }

  sqlite3* handle_ = nullptr;
  std::uint64_t seed_ = 0;
  std::vector<std::pair<std::string, std::string>> waiting_;  // hashes of keys, and bytes
  std::size_t waiting_bytes_ = 0;
  std::vector<std::int64_t> used_;  // rows that were asked for today
};

class PartStore::Shelf : public PartShelf {
 public:
  Shelf(PartStore& store, std::string root) : store_(store), root_(std::move(root)) {}
  std::uint64_t seed() const override {
    Database* database = store_.opened();
    return database ? database->seed() : 0;
  }
  std::vector<std::string> load(const std::string& key) override {
    Database* database = store_.opened();
    return database ? database->load(root_ + '\n' + key) : std::vector<std::string>();
  }
  void save(const std::string& key, const std::string& bytes) override {
    if (Database* database = store_.opened()) database->save(root_ + '\n' + key, bytes);
  }

 private:
  PartStore& store_;
  std::string root_;
};

PartStore::PartStore(std::string file, std::function<std::string()> program)
    : file_(std::move(file)), program_(std::move(program)) {}
PartStore::~PartStore() = default;

PartStore::Database* PartStore::opened() {
  if (is_tried_) return database_.get();
  is_tried_ = true;
  std::string program = file_.empty() ? "" : program_();
  if (!program.empty() && sodium_init() >= 0) database_ = Database::open(file_, program);
  return database_.get();
}

bool PartStore::lies_in(const std::string& root) const {
  std::error_code error;
  std::string whole = fs::weakly_canonical(file_, error).string();
  return error || whole.starts_with(root == "/" ? root : root + "/");
}

std::shared_ptr<PartShelf> PartStore::shelf(const std::string& root) {
  return std::make_shared<Shelf>(*this, root);
}

bool PartStore::close() {
  bool done = !database_ || database_->write();
  database_.reset();
  return done;
}

}  // namespace yc
