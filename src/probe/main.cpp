#include <iostream>

#include "core/values/fault.h"
#include "probe/commands.h"

int main(int argc, char** argv) {
  try {
    return probe::runCommandLine(argc, argv, std::cout, std::cerr);
  } catch (const std::exception& thrown) {
    std::cerr << core::faultOf(thrown, argv[0]).sentence() << '\n';
    return 1;
  }
}
