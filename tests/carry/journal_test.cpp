// The journal comes back as it was written, whatever the names; a damaged one is never used.
#include "carry/journal.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <iterator>

#include "carry/digest.h"
#include "support/own_state.h"
#include "support/scratch_folder.h"

namespace yc::test {
namespace {

using ::testing::HasSubstr;

RelPath at(const std::string& text) {
  return RelPath::from_normal(text);
}

Journal example() {
  Journal out;
  out.command = "yellow-compass move 'a b' c%41\n\xff";
  out.time = 1764043200;
  out.requested = {{at("a b"), at("c")}};
  JournalItem moved;
  moved.from = at("a b/\"odd\"\n$name%20\xc3\xa4\xff");
  moved.to = at("c/x");
  moved.inode = 18446744073709551615U;
  moved.before = moved.after = digest_of("one");
  moved.blob = "8ab686eafeb1f44702738c8b0f24f2567c36da6d";
  JournalItem edited;
  edited.from = edited.to = at("Makefile");
  edited.kind = EntryKind::link;
  edited.before = digest_of("one");
  edited.after = digest_of("two");
  edited.staged_inode = 77;
  edited.original_inode = 78;
  edited.unlisted = true;
  out.items = {moved, edited};
  out.nested = {{{at("libs/tide"), at("third/tide")}, "/r/.git/modules/tide", "12ab"}};
  out.made = {{at("c"), 0}};
  out.removed = {{at("a b"), 0750}};
  return out;
}

class Journals : public ::testing::Test {
 protected:
  void SetUp() override {
    auto state = State::open(disk_, {folder_.path(), folder_.path() + "/.yellow-compass", own_state()});
    ASSERT_TRUE(state);
    state_ = *state;
    ASSERT_TRUE(state_.make(disk_));
    ASSERT_TRUE(state_.sign_folder(disk_));
    auto stored = begin_journal(disk_, state_);
    ASSERT_TRUE(stored);
    stored->journal = example();
    ASSERT_TRUE(write_journal(disk_, state_, *stored));
    file_ = stored->folder + "/journal";
    std::ifstream in(file_, std::ios::binary);
    bytes_.assign(std::istreambuf_iterator<char>(in), {});
  }
  Result<std::vector<StoredJournal>> read_with(const std::string& bytes) {
    std::ofstream(file_, std::ios::binary) << bytes;
    return read_journals(disk_, state_);
  }
  std::string sealed(const std::string& body) const {
    return "yellow-compass journal 4 " + state_.sign(body) + "\n" + body;
  }

  ScratchFolder folder_;
  DiskFileSystem disk_{{folder_.path()}};
  State state_;
  std::string file_, bytes_;
};

TEST_F(Journals, come_back_as_they_were_written) {
  auto journals = read_journals(disk_, state_);
  ASSERT_TRUE(journals) << journals.error().message;
  ASSERT_EQ(journals->size(), 1U);
  const Journal &now = journals->front().journal, then = example();
  EXPECT_EQ(now.command, then.command);
  EXPECT_EQ(now.time, then.time);
  EXPECT_EQ(now.requested, then.requested);
  ASSERT_EQ(now.items.size(), then.items.size());
  for (std::size_t i = 0; i < now.items.size(); ++i) {
    EXPECT_EQ(now.items[i].from, then.items[i].from);
    EXPECT_EQ(now.items[i].to, then.items[i].to);
    EXPECT_EQ(now.items[i].kind, then.items[i].kind);
    EXPECT_EQ(now.items[i].inode, then.items[i].inode);
    EXPECT_EQ(now.items[i].staged_inode, then.items[i].staged_inode);
    EXPECT_EQ(now.items[i].original_inode, then.items[i].original_inode);
    EXPECT_EQ(now.items[i].unlisted, then.items[i].unlisted);
    EXPECT_EQ(now.items[i].before, then.items[i].before);
    EXPECT_EQ(now.items[i].after, then.items[i].after);
    EXPECT_EQ(now.items[i].blob, then.items[i].blob);
  }
  EXPECT_EQ(now.nested.front().move, then.nested.front().move);
  EXPECT_EQ(now.nested.front().git_dir, then.nested.front().git_dir);
  EXPECT_EQ(now.made.front().path, then.made.front().path);
  EXPECT_EQ(now.removed.front().mode, then.removed.front().mode);
  EXPECT_TRUE(journals->front().is_unfinished());
}

TEST_F(Journals, any_changed_byte_is_noticed_and_the_file_is_left_alone) {
  for (std::size_t i = 0; i < bytes_.size(); ++i) {
    std::string changed = bytes_;
    changed[i] = static_cast<char>(changed[i] ^ 1);
    auto journals = read_with(changed);
    ASSERT_FALSE(journals) << "byte " << i;
    EXPECT_EQ(journals.error().place, file_);
    std::ifstream in(file_, std::ios::binary);
    EXPECT_EQ(std::string(std::istreambuf_iterator<char>(in), {}), changed);
  }
}

TEST_F(Journals, any_end_that_is_cut_off_is_noticed) {
  for (std::size_t size = 0; size < bytes_.size(); ++size)
    EXPECT_FALSE(read_with(bytes_.substr(0, size))) << "first " << size << " bytes";
}

// A whole and well-formed record is still not trusted with paths that leave the tree.
TEST_F(Journals, paths_out_of_the_tree_are_refused) {
  for (const char* path : {"../x", "/etc/passwd", "a/../../x", "", ".", "a//b", "./a"}) {
    std::string body = std::string("{\"command\":\"\",\"time\":0,\"requested\":[],\"items\":[{\"from\":\"") +
                       path +
                       "\",\"inode\":1,\"before\":\"\"}],\"nested\":[],\"made\":[],\"removed\":[],\"made_"
                       "files\":[],\"dropped_files\":[]}\n";
    auto journals = read_with(sealed(body));
    ASSERT_FALSE(journals) << path;
    EXPECT_THAT(journals.error().message, HasSubstr("is no path in the tree"));
  }
}

TEST_F(Journals, fields_that_are_missing_or_mistyped_are_refused) {
  for (const char* body : {"{}\n", "[]\n", "null\n", "1\n", "{\"command\":1}\n",
                           "{\"command\":\"\",\"time\":\"now\",\"requested\":[],\"items\":[],\"nested\":[],"
                           "\"made\":[],\"removed\":[]}\n",
                           "{\"command\":\"\",\"time\":0,\"requested\":[],\"items\":{},\"nested\":[],"
                           "\"made\":[{}],\"removed\":[]}\n",
                           "{\"command\":\"\",\"time\":1e300,\"requested\":[],\"items\":[],\"nested\":[],"
                           "\"made\":[],\"removed\":[],\"made_files\":[],\"dropped_files\":[]}\n",
                           "{\"command\":\"\",\"time\":0,\"requested\":[],\"items\":[],\"nested\":[],"
                           "\"made\":[],\"removed\":[{\"path\":\"a\",\"mode\":9.5e105}],\"made_files\":[],"
                           "\"dropped_files\":[]}\n"})
    EXPECT_FALSE(read_with(sealed(body))) << body;
}

TEST_F(Journals, folder_without_a_record_counts_for_nothing_and_is_swept) {
  auto begun = begin_journal(disk_, state_);
  ASSERT_TRUE(begun);
  EXPECT_EQ(begun->number, 2);
  ASSERT_TRUE(disk_.write_new(begun->staged(0), "half", 0600));
  EXPECT_EQ(read_journals(disk_, state_)->size(), 1U);
  sweep(disk_, state_);
  EXPECT_FALSE(disk_.exists(begun->folder));
  EXPECT_EQ(read_journals(disk_, state_)->size(), 1U) << "what has a record is no rubbish";
}

TEST_F(Journals, marks_tell_what_became_of_a_move) {
  auto now = [&] { return read_journals(disk_, state_)->front(); };
  ASSERT_TRUE(mark(disk_, now(), "done"));
  EXPECT_TRUE(now().stands());
  ASSERT_TRUE(mark(disk_, now(), "undoing"));
  EXPECT_TRUE(now().is_unfinished());
  ASSERT_TRUE(mark(disk_, now(), "undone"));
  EXPECT_FALSE(now().is_unfinished());
  EXPECT_FALSE(now().stands());
  ASSERT_TRUE(unmark(disk_, now(), "undone"));
  ASSERT_TRUE(unmark(disk_, now(), "undoing"));
  EXPECT_TRUE(now().stands());
}

}  // namespace
}  // namespace yc::test
