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

}  // namespace
