// What the rows of a table do, its columns, and both together.
#include <gtest/gtest.h>

#include <cmath>

#include "core/beside/table_effects.h"
#include "core/values/percent.h"

namespace {

core::TableAside tableOf(const std::vector<std::vector<double>>& values, double se = 0.002) {
  core::TableAside table{"Ring pass", "FPS", {}, {}, {}};
  for (std::size_t row = 0; row < values.size(); ++row) {
    table.rows.push_back("board " + std::to_string(row + 1));
    for (std::size_t column = 0; column < values[row].size(); ++column) {
      if (row == 0) table.columns.push_back("node " + std::to_string(column + 1));
      core::CellAside& cell = table.cells.emplace_back();
      cell.row = table.rows[row];
      cell.column = table.columns[column];
      cell.value = values[row][column];
      core::Contrast& mean = cell.mean.emplace();
      mean.difference = std::log(values[row][column]);
      mean.se = se;
      mean.inference = core::Inference{8, 0, 0, 0, 0, 0};
    }
  }
  return table;
}

TEST(TableEffects, TellRowsColumnsAndWhatTheyDoToEachOther) {
  const auto effects = core::tableEffects(tableOf({{100, 110}, {105, 130}}), 0.95, 2);
  ASSERT_TRUE(effects);
  ASSERT_EQ(effects->rows.size(), 1U);
  // Means over both columns alike, on the ln scale.
  EXPECT_NEAR(effects->rows[0].percent.value, core::percentOfLn((std::log(105 / 100.) + std::log(130 / 110.)) / 2),
              1e-9);
  EXPECT_NEAR(effects->columns[0].percent.value, core::percentOfLn((std::log(1.1) + std::log(130 / 105.)) / 2), 1e-9);
  ASSERT_EQ(effects->interactions.size(), 1U);
  EXPECT_NEAR(effects->interactions[0].percent.value, 100 * ((130 / 110.) / (105 / 100.) - 1), 1e-9);
  EXPECT_EQ(effects->interactions[0].at_to, "node 2");
  EXPECT_EQ(effects->interactions[0].verdict, core::Verdict::Gain);
  EXPECT_TRUE(effects->interactions[0].p_holm);
  EXPECT_TRUE(effects->turned.empty());
  // The spread of a mean over two columns, and over four cells.
  const double half_of_step = 0.002;
  const auto& interval = *effects->rows[0].percent.interval;
  EXPECT_NEAR(std::log(interval.hi / 100 + 1) - std::log(interval.lo / 100 + 1), 2 * 2.0369 * half_of_step, 1e-4)
      << "t of 32 degrees of freedom";
}

TEST(TableEffects, SayWhereAnOrderTurnsRound) {
  const auto effects = core::tableEffects(tableOf({{100, 110}, {105, 104}}), 0.95, 2);
  ASSERT_TRUE(effects);
  ASSERT_EQ(effects->turned.size(), 1U);
  EXPECT_EQ(effects->turned[0], "board 2 is ahead of board 1 at node 1, and behind it at node 2");
  // Within the spread nothing turns.
  EXPECT_TRUE(core::tableEffects(tableOf({{100, 110}, {105, 104}}, 0.05), 0.95, 2)->turned.empty());
}

TEST(TableEffects, NeedEveryCell) {
  core::TableAside table = tableOf({{100, 110}, {105, 130}});
  table.cells[3].refused = "memory speed is 4800, and 6000 in the first cell";
  EXPECT_FALSE(core::tableEffects(table, 0.95, 2));
  table = tableOf({{100, 110}, {105, 130}});
  table.cells.pop_back();
  EXPECT_FALSE(core::tableEffects(table, 0.95, 2));
  table = tableOf({{100, 110}, {105, 130}});
  table.cells[2].mean->inference.reset();
  EXPECT_FALSE(core::tableEffects(table, 0.95, 2));
  EXPECT_FALSE(core::tableEffects(tableOf({{100, 110}}), 0.95, 2)) << "one row";
}

}  // namespace
