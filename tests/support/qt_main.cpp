#include <gtest/gtest.h>

#include <QCoreApplication>
#include <cstdlib>

// Tests that start processes need an event loop; our own programs lie in the same folder as the test.
int main(int argc, char** argv) {
  testing::InitGoogleTest(&argc, argv);
  QCoreApplication application(argc, argv);
  return RUN_ALL_TESTS();
}
