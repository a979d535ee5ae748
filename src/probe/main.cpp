#include <iostream>

#include "probe/commands.h"

int main(int argc, char** argv) { return probe::runCommandLine(argc, argv, std::cout, std::cerr); }
