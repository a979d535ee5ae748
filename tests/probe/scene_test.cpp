#include "probe/scene_run.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "support/test_folder.h"

namespace {

probe::SceneOptions small(int threads) {
  probe::SceneOptions options;
  options.size = 128;
  options.threads = threads;
  options.frames = 4;
  return options;
}

TEST(SceneProbe, DrawsTheSamePictureWithAnyNumberOfThreads) {
  const auto one = probe::runScene(small(1));
  const auto three = probe::runScene(small(3));
  ASSERT_TRUE(one.ok() && three.ok());
  EXPECT_EQ(one->checksum, three->checksum);
  probe::SceneOptions further = small(1);
  further.frames = 5;  // another place on the path
  EXPECT_NE(probe::runScene(further)->checksum, one->checksum);
}

TEST(SceneProbe, LogsEveryFrame) {
  const support::TestFolder folder;
  probe::SceneOptions options = small(2);
  options.log_path = folder / "frames.csv";
  const auto summary = probe::runScene(options);
  ASSERT_TRUE(summary.ok());
  const std::string log = support::contents(options.log_path);
  EXPECT_EQ(std::count(log.begin(), log.end(), '\n'), 1 + summary->frames);
}

TEST(SceneProbe, SaysThatItCannotWriteItsLog) {
  probe::SceneOptions options = small(1);
  options.log_path = "/dev/full";
  const auto summary = probe::runScene(options);
  ASSERT_FALSE(summary.ok());
  EXPECT_EQ(summary.error().where, "/dev/full");
}

TEST(SceneProbe, RefusesOptionsThatDoNotFit) {
  probe::SceneOptions options = small(0);
  EXPECT_EQ(probe::runScene(options).error().kind, core::ErrorKind::OutOfRange);
  options = small(1);
  options.seconds = 1;  // both
  EXPECT_FALSE(probe::runScene(options).ok());
}

}  // namespace
