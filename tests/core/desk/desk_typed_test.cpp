// Numbers of the desk as people write them.
#include <gtest/gtest.h>

#include "core/desk/desk_typed.h"

namespace {

using Numbers = core::DeskNumbers;

Numbers typed(const char* ask, const char* key, const char* text) {
  const core::DeskAsk& asked = *core::findDeskAsk(ask);
  for (const core::DeskInput& one : asked.inputs)
    if (one.key == key) {
      const auto numbers = core::deskTyped(asked, one, text);
      return numbers ? *numbers : Numbers{};
    }
  return {};
}

TEST(DeskTyped, TakesEveryCommonSpelling) {
  EXPECT_EQ(typed("link_rate", "generation", "4"), (Numbers{{"generation", {4}}}));
  for (const char* link : {"8 GT/s x4", "8GT/s x4", "Gen 3 x4", "gen3x4", "Gen3 \u00d74", "x4 8.0 GT/s"})
    EXPECT_EQ(typed("link_rate", "generation", link), (Numbers{{"generation", {3}}, {"lanes", {4}}})) << link;
  EXPECT_EQ(typed("link_rate", "lanes", "x8"), (Numbers{{"lanes", {8}}}));
  EXPECT_EQ(typed("memory_rate", "mts", "3600 MT/s CL16"), (Numbers{{"mts", {3600}}, {"cl", {16}}}));
  EXPECT_EQ(typed("memory_rate", "mts", "DDR5-6000 CL30"), (Numbers{{"mts", {6000}}, {"cl", {30}}}));
  EXPECT_EQ(typed("memory_rate", "mts", "1800 MHz"), (Numbers{{"mts", {3600}}})) << "two a clock";
  EXPECT_EQ(typed("frame_traffic", "width", "3840x2160"), (Numbers{{"width", {3840}}, {"height", {2160}}}));
  EXPECT_EQ(typed("value", "gain_percent", "+25 %"), (Numbers{{"gain_percent", {25}}}));
  EXPECT_EQ(typed("value", "gain_percent", "−25%"), (Numbers{{"gain_percent", {-25}}})) << "as it is printed";
  EXPECT_EQ(typed("transfer_time", "GBps", "15750 MB/s"), (Numbers{{"GBps", {15.75}}}));
  EXPECT_EQ(typed("transfer_time", "GBps", "40 Gbit/s"), (Numbers{{"GBps", {5}}}));
  EXPECT_EQ(typed("transfer_time", "megabytes", "1,5 GB"), (Numbers{{"megabytes", {1500}}})) << "a decimal comma";
  EXPECT_EQ(typed("step_gain", "GBps", "7.88 15.75, 31.5 GB/s"), (Numbers{{"GBps", {7.88, 15.75, 31.5}}}));
  EXPECT_EQ(typed("mean_wait", "first_hz", "1 kHz"), (Numbers{{"first_hz", {1000}}}));
  EXPECT_EQ(typed("carve_out", "installed_gib", "32 GB"), (Numbers{{"installed_gib", {32}}})) << "as it is sold";
  EXPECT_EQ(typed("carve_out", "carve_out_gib", "512 MiB"), (Numbers{{"carve_out_gib", {0.5}}}));
  EXPECT_EQ(typed("energy", "seconds", "2 min"), (Numbers{{"seconds", {120}}}));
  EXPECT_EQ(typed("margin_from_passes", "confidence", "95 %"), (Numbers{{"confidence", {0.95}}}));
  EXPECT_EQ(typed("margin_from_passes", "values", "1e2 1.02e2"), (Numbers{{"values", {100, 102}}}));
}

TEST(DeskTyped, RefusesWhatIsNoNumberOrMeasuresSomethingElse) {
  for (const auto& [ask, key, text] : {std::tuple("transfer_time", "GBps", "4 Hz"),
                                       {"transfer_time", "GBps", "4 GB"},
                                       {"mean_wait", "first_hz", "5 furlongs"},
                                       {"link_rate", "generation", "fast"},
                                       {"link_rate", "lanes", "8 16"},
                                       {"link_rate", "lanes", ""},
                                       {"link_rate", "lanes", "1e400"},
                                       {"link_rate", "lanes", "--4"},
                                       {"transfer_time", "GBps", "4 5"},
                                       {"frame_rate", "ms", "."},
                                       {"frame_rate", "ms", "x"},
                                       {"frame_rate", "ms", ", ,"}})
    EXPECT_EQ(typed(ask, key, text), Numbers{}) << ask << ' ' << text;
}

}  // namespace
