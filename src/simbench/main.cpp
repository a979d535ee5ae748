#include <iostream>

#include "simbench/commands.h"

int main(int argc, char** argv) { return simbench::runCommandLine(argc, argv, std::cout, std::cerr); }
