#include <iostream>

#include "core/values/fault.h"
#include "simbench/commands.h"

int main(int argc, char** argv) {
  try {
    return simbench::runCommandLine(argc, argv, std::cout, std::cerr);
  } catch (const std::exception& thrown) {
    std::cerr << core::faultOf(thrown, argv[0]).sentence() << '\n';
    return 1;
  }
}
