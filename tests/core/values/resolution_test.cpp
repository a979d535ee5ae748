#include "core/values/resolution.h"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace {

double of(std::initializer_list<double> values) { return core::resolutionOf(std::vector<double>(values)); }

TEST(Resolution, IsReadFromTheDigitsOfAllValues) {
  EXPECT_EQ(of({60, 61, 60, 64}), 1);
  EXPECT_EQ(of({60, 60, 60}), 1) << "all are whole";
  EXPECT_EQ(of({1200, 98765}), 1) << "whole numbers stay whole, however far they spread";
  EXPECT_NEAR(of({60.1, 60.2, 60}), 0.1, 1e-12);
  EXPECT_EQ(of({60.11, 68.23}), 0) << "a step of a hundredth hides nothing of a spread of eight";
  EXPECT_NEAR(of({0.11, 0.12, 0.15}), 0.01, 1e-12);
  EXPECT_EQ(of({60 * std::exp(0.001), 60 * std::exp(-0.002)}), 0);
  EXPECT_EQ(of({6000 * std::exp(0.001), 6000 * std::exp(0.0011)}), 0);
  EXPECT_EQ(of({}), 0);
  EXPECT_EQ(of({NAN, INFINITY, 3, 4}), 1);
  EXPECT_EQ(of({-3.5, 2.5}), 0);
}

}  // namespace
