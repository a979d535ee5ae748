// The index of all studies, and what several windows and commands do to one file at the same time.
#include <gtest/gtest.h>

#include <thread>
#include <vector>

#include "store/benches/bench_register.h"
#include "store/cabinet/cabinet_index.h"
#include "support/test_folder.h"

namespace {

using Entry = store::CabinetIndex::Entry;

Entry entryOf(const std::string& path) {
  Entry entry;
  entry.path = path;
  entry.sentence = "moving the memory speed changes average FPS";
  entry.bench = "Dome node 3";
  entry.state = "complete";
  entry.words = entry.sentence;
  return entry;
}

// Planted: whoever came second while the file was made found its tables there already, and failed.
TEST(CabinetIndex, IsMadeOnceByHoweverManyAtATime) {
  for (int turn = 0; turn < 10; ++turn) {
    const support::TestFolder folder;
    const std::string path = folder / "cabinet.sqlite";
    std::vector<std::string> failures(6);
    std::vector<std::thread> threads;
    for (std::size_t i = 0; i < failures.size(); ++i)
      threads.emplace_back([&, i] {
        store::CabinetIndex index(path);
        if (auto found = index.find("memory"); !found) failures[i] = found.error().sentence();
        if (auto done = index.update({entryOf("study " + std::to_string(i))}, {}); !done)
          failures[i] = done.error().sentence();
      });
    for (std::thread& one : threads) one.join();
    for (const std::string& failure : failures) EXPECT_EQ(failure, "");
    const auto all = store::CabinetIndex(path).find("");
    ASSERT_TRUE(all.ok());
    EXPECT_EQ(all->size(), failures.size()) << "what one filed another has not thrown away";
  }
}

TEST(CabinetIndex, FindsByTheDaysOfTheLastPass) {
  const support::TestFolder folder;
  store::CabinetIndex index(folder / "cabinet.sqlite");
  std::vector<Entry> studies;
  for (const auto& [path, at_ms] : {std::pair{"june 2025", 1'750'000'000'000}, {"october 2025", 1'760'000'000'000}}) {
    studies.push_back(entryOf(path));
    studies.back().at_ms = at_ms;
  }
  ASSERT_TRUE(index.update(studies, {}).ok());
  const auto found = [&](const std::string& words) {
    std::string paths;
    const auto entries = index.find(words);
    for (const Entry& one : *entries) paths += one.path + ';';
    return paths;
  };
  EXPECT_EQ(found("2025-06"), "june 2025;");
  EXPECT_EQ(found("2025-06-15"), "june 2025;") << "its day, in UTC";
  EXPECT_EQ(found("2025-06-16"), "");
  EXPECT_EQ(found("2025-07.. memory"), "october 2025;") << "with words";
  EXPECT_EQ(found("..2025-09"), "june 2025;");
  EXPECT_EQ(found("2025-06..2025-10"), "october 2025;june 2025;") << "both ends are in it";
  EXPECT_EQ(found("2024..2025"), "october 2025;june 2025;");
  EXPECT_EQ(found("2025-13"), "") << "no month: a word like others, and none holds it";
  EXPECT_EQ(found(".."), "");
}

TEST(BenchRegister, IsMadeOnceByHoweverManyAtATime) {
  const support::TestFolder folder;
  std::vector<std::string> failures(6);
  std::vector<std::thread> threads;
  for (std::size_t i = 0; i < failures.size(); ++i)
    threads.emplace_back([&, i] {
      store::BenchRegister benches(folder / "benches.sqlite");
      core::Capture capture;
      capture.taken_ms = static_cast<std::int64_t>(i);
      if (auto done = benches.add("bench " + std::to_string(i), capture); !done) failures[i] = done.error().sentence();
      if (auto list = benches.benches(); !list) failures[i] = list.error().sentence();
    });
  for (std::thread& one : threads) one.join();
  for (const std::string& failure : failures) EXPECT_EQ(failure, "");
}

TEST(CabinetIndex, IsMadeAnewWhereItCannotBeReadAndNeverAsksForMore) {
  const support::TestFolder folder;
  folder.write("cabinet.sqlite", "no database at all, but long enough to be looked into as if it were one");
  store::CabinetIndex index(folder / "cabinet.sqlite");
  ASSERT_TRUE(index.update({entryOf("a")}, {}).ok());
  EXPECT_EQ(index.find("mem")->size(), 1U);
  EXPECT_EQ(index.find("\" OR *")->size(), 0U) << "a word, never a language of its own";
}

// Of copies that with the most passes is the study, whatever it is called; one that began at another time is no copy,
// though it was made from the same file.
TEST(CabinetIndex, CountsAStudyOnceHoweverOftenItWasCopied) {
  const support::TestFolder folder;
  store::CabinetIndex index(folder / "cabinet.sqlite");
  std::vector<Entry> all;
  for (const auto& [path, begun_ms, passes] :
       {std::tuple("a", 1000, 8), {"b", 1000, 10}, {"c", 2000, 20}, {"d", 0, 0}, {"e", 1000, 10}}) {
    all.push_back(entryOf(path));
    all.back().identity = "this one";
    all.back().begun_ms = begun_ms;
    all.back().passes = passes;
  }
  all.push_back(entryOf("unreadable, of which nobody knows"));
  all.push_back(entryOf("another"));
  ASSERT_TRUE(index.update(all, {}).ok());
  const auto found = index.find("");
  ASSERT_TRUE(found.ok());
  for (const Entry& one : *found) EXPECT_EQ(one.copy_of, one.path == "a" || one.path == "e" ? "b" : "") << one.path;
  EXPECT_EQ(*index.pathOf("this one"), "c");
  EXPECT_EQ(*index.pathOf("none"), "");
  EXPECT_EQ(*index.pathOf(""), "");
}

}  // namespace
