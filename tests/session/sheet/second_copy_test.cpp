// The copy in the second folder, while something else is under way beside the session.
#include "session/sheet/second_copy.h"

#include <gtest/gtest.h>

#include <chrono>
#include <filesystem>
#include <thread>

#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

TEST(SecondCopies, AndASheetThatWaitsForThemBothComeToAnEnd) {
  const support::TestFolder folder;
  std::filesystem::create_directories(folder / "stick");
  auto file = store::StudyFile::create(folder / "study.ironlever", support::studyOf({"workload", "{log}"}));
  ASSERT_TRUE(file.ok());
  session::OpenStudy open(*std::move(file), "T. Varga");
  session::Background background;
  session::SecondCopy copy(open, background, folder / "second-copies.json");
  ASSERT_TRUE(copy.setFolder(folder / "stick").ok());
  const auto copies = [&] {
    return std::distance(std::filesystem::directory_iterator(folder / "stick"), std::filesystem::directory_iterator());
  };
  ASSERT_EQ(copies(), 1);
  for (const auto& one : std::filesystem::directory_iterator(folder / "stick")) std::filesystem::remove(one.path());

  background.run<bool>(
      [] {
        std::this_thread::sleep_for(std::chrono::milliseconds(100));  // a slow look at the machine
        return true;
      },
      [](bool) {});
  copy.make();  // asked while that is under way
  bool is_done = false;
  const std::function<void()> untilIdle = [&] {  // as a sheet that is done when its copy is
    if (!background.isBusy()) return void(is_done = true);
    background.run<bool>([] { return true; }, [&](bool) { untilIdle(); });
  };
  untilIdle();
  EXPECT_TRUE(support::waitUntil([&] { return is_done; }, 20000)) << "the two wait for each other";
  EXPECT_EQ(copies(), 1);
}

}  // namespace
