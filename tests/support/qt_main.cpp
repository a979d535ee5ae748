#include <gtest/gtest.h>

#include <QCoreApplication>
#include <cstdlib>

#include "core/values/number_text.h"

// Tests that start processes need an event loop; our own programs lie in the same folder as the test.
int main(int argc, char** argv) {
  testing::InitGoogleTest(&argc, argv);
  QCoreApplication application(argc, argv);
  core::keepPlainLocale();
  return RUN_ALL_TESTS();
}
