// What processes use of graphics devices, from the kernel's own figures of each open device file.
#include "bench/graphics_use.h"

#include <gtest/gtest.h>

#include <filesystem>

#include "support/test_folder.h"

namespace {

namespace fs = std::filesystem;

class GraphicsUses : public testing::Test {
 protected:
  // A file that a process has open, as the kernel shows it.
  void open(int process, int number, const std::string& what, const std::string& info) const {
    const std::string place = folder_ / std::to_string(process);
    fs::create_directories(place + "/fd");
    fs::create_directories(place + "/fdinfo");
    fs::create_symlink(what, place + "/fd/" + std::to_string(number));
    folder_.write(std::to_string(process) + "/fdinfo/" + std::to_string(number), info);
  }
  [[nodiscard]] std::optional<bench::GraphicsUse> useOf(const std::vector<pid_t>& processes) const {
    return bench::graphicsUse(processes, folder_.path());
  }
  support::TestFolder folder_;
};

constexpr const char* kRender = "pos:\t0\ndrm-driver:\tsome\ndrm-client-id:\t7\ndrm-pdev:\t0000:01:00.0\n";

TEST_F(GraphicsUses, AreSummedOverEnginesAndProcesses) {
  open(10, 4, "/dev/dri/renderD128",
       std::string(kRender) +
           "drm-engine-gfx:\t2000000000 ns\ndrm-engine-dec:\t500000000 ns\n"
           "drm-engine-capacity-gfx:\t4\ndrm-memory-vram:\t2048 KiB\ndrm-memory-gtt:\t100 MiB\n");
  open(11, 4, "/dev/dri/renderD128",
       "drm-client-id:\t8\ndrm-pdev:\t0000:01:00.0\ndrm-engine-gfx:\t1000000000 ns\ndrm-memory-vram:\t1 MiB\n");
  open(10, 5, "/tmp/log", "pos:\t0\n");
  const auto use = useOf({10, 11, 999});
  ASSERT_TRUE(use);
  EXPECT_DOUBLE_EQ(*use->busy_s, 3.5);
  EXPECT_DOUBLE_EQ(*use->memory_bytes, 3.0 * 1024 * 1024) << "what lies in the device's own memory";
  EXPECT_FALSE(useOf({999}));
  EXPECT_FALSE(useOf({}));
}

TEST_F(GraphicsUses, OfADeviceFileThatIsHeldTwiceCountOnce) {
  const std::string info = std::string(kRender) + "drm-engine-gfx:\t1000000000 ns\n";
  open(10, 4, "/dev/dri/renderD128", info);
  open(10, 5, "/dev/dri/renderD128", info);
  open(11, 4, "/dev/dri/renderD128", info);
  EXPECT_DOUBLE_EQ(*useOf({10, 11})->busy_s, 1);
  EXPECT_FALSE(useOf({10, 11})->memory_bytes);
}

TEST_F(GraphicsUses, OfADeviceWithoutMemoryOfItsOwnAreAllThatItHolds) {
  open(10, 4, "/dev/dri/card0",
       std::string(kRender) +
           "drm-resident-system0:\t512 KiB\ndrm-resident-stolen:\t512 KiB\ndrm-memory-vram:\t9 MiB\n");
  EXPECT_DOUBLE_EQ(*useOf({10})->memory_bytes, 1024.0 * 1024) << "what is resident, where the driver tells";
}

TEST_F(GraphicsUses, AreNotInventedOfWhatIsNone) {
  open(10, 4, "/dev/dri/card0", std::string(kRender) + "drm-engine-gfx:\tnan ns\ndrm-memory-vram:\t-5 KiB\n");
  open(10, 5, "/dev/dri/card0", "drm-engine-gfx:\t5 ns\n");  // nobody knows whose
  EXPECT_FALSE(useOf({10}));
}

}  // namespace
