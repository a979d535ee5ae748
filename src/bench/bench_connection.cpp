#include "bench/bench_connection.h"

namespace bench {

std::string bootId(const BenchConnection& connection) {
  auto text = connection.readFile("/proc/sys/kernel/random/boot_id");
  if (!text) return "";
  while (!text->empty() && text->back() == '\n') text->pop_back();
  return *text;
}

}  // namespace bench
