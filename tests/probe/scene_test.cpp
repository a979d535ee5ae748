#include "probe/copy_probe.h"
#include "probe/device_scene.h"
#include "probe/scene_run.h"

#include <gtest/gtest.h>
#include <vulkan/vulkan.h>

#include <algorithm>

#include "support/test_folder.h"

namespace {

probe::SceneOptions small(int threads) {
  probe::SceneOptions options;
  options.size = 128;
  options.threads = threads;
  options.loop.frames = 4;
  return options;
}

TEST(SceneProbe, DrawsTheSamePictureWithAnyNumberOfThreads) {
  const auto one = probe::runScene(small(1));
  const auto three = probe::runScene(small(3));
  ASSERT_TRUE(one.ok() && three.ok());
  EXPECT_EQ(one->checksum, three->checksum);
  probe::SceneOptions further = small(1);
  further.loop.frames = 5;  // another place on the path
  EXPECT_NE(probe::runScene(further)->checksum, one->checksum);
}

TEST(SceneProbe, LogsEveryFrame) {
  const support::TestFolder folder;
  probe::SceneOptions options = small(2);
  options.loop.log_path = folder / "frames.csv";
  const auto summary = probe::runScene(options);
  ASSERT_TRUE(summary.ok());
  const std::string log = support::contents(options.loop.log_path);
  EXPECT_EQ(std::count(log.begin(), log.end(), '\n'), 1 + summary->count.frames);
}

TEST(SceneProbe, SaysThatItCannotWriteItsLog) {
  probe::SceneOptions options = small(1);
  options.loop.log_path = "/dev/full";
  const auto summary = probe::runScene(options);
  ASSERT_FALSE(summary.ok());
  EXPECT_EQ(summary.error().where, "/dev/full");
}

TEST(SceneProbe, RefusesOptionsThatDoNotFit) {
  probe::SceneOptions options = small(0);
  EXPECT_EQ(probe::runScene(options).error().kind, core::ErrorKind::OutOfRange);
  options = small(1);
  options.loop.seconds = 1;  // both
  EXPECT_FALSE(probe::runScene(options).ok());
}

// A driver that is unloaded leaves things behind that nobody can reach any more; while this lives none is.
bool keepsDriversLoaded() {
  static VkInstance kept = [] {
    VkInstanceCreateInfo info{};
    info.sType = VK_STRUCTURE_TYPE_INSTANCE_CREATE_INFO;
    VkInstance instance = VK_NULL_HANDLE;
    (void)vkCreateInstance(&info, nullptr, &instance);
    return instance;
  }();
  return kept != VK_NULL_HANDLE;
}

// On whatever device there is; the software device of Debian's mesa-vulkan-drivers does.
class DeviceScene : public testing::TestWithParam<probe::SceneLoad> {
 protected:
  static probe::DeviceSceneOptions options(int frames) {
    probe::DeviceSceneOptions options;
    options.size = 128;
    options.load = GetParam();
    options.loop.frames = frames;
    return options;
  }
};

TEST_P(DeviceScene, DrawsTheSamePathAgainAndLogsIt) {
  if (!keepsDriversLoaded() || !probe::vulkanDevices()) GTEST_SKIP() << "there is no Vulkan device";
  const support::TestFolder folder;
  probe::DeviceSceneOptions logged = options(12);
  logged.loop.log_path = folder / "frames.csv";
  const auto first = probe::runDeviceScene(logged);
  ASSERT_TRUE(first.ok()) << first.error().sentence();
  EXPECT_EQ(first->count.frames, 12);
  const std::string log = support::contents(logged.loop.log_path);
  EXPECT_EQ(std::count(log.begin(), log.end(), '\n'), 13);
  EXPECT_EQ(probe::runDeviceScene(options(12))->checksum, first->checksum);
  EXPECT_NE(probe::runDeviceScene(options(13))->checksum, first->checksum);
}

INSTANTIATE_TEST_SUITE_P(Every, DeviceScene,
                         testing::Values(probe::SceneLoad::Shading, probe::SceneLoad::Textures,
                                         probe::SceneLoad::Draws));

TEST(DeviceScenes, SayWhatIsMissing) {
  probe::DeviceSceneOptions options;
  options.loop.frames = 1;
  options.device = 99;
  EXPECT_EQ(probe::runDeviceScene(options).error().kind, core::ErrorKind::Missing);
}

}  // namespace
