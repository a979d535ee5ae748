#include "bench/updates.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace bench {
namespace {

// As /proc calls them: cut after 15 characters.
constexpr std::array<std::string_view, 9> kUpdaters{"apt", "apt-get", "dpkg",   "unattended-upgr", "update-initramf",
                                                    "dnf", "rpm",     "zypper", "fwupdmgr"};

bool isNumber(const std::string& name) {
  return !name.empty() && std::all_of(name.begin(), name.end(), [](unsigned char c) { return std::isdigit(c) != 0; });
}

}  // namespace

std::string runningUpdate(const BenchConnection& bench) {
  const auto processes = bench.listFolder("/proc");
  if (!processes) return {};
  for (const std::string& process : *processes) {
    if (!isNumber(process)) continue;
    auto name = bench.readFile("/proc/" + process + "/comm");
    if (!name) continue;  // it has ended meanwhile
    while (name->ends_with('\n')) name->pop_back();
    if (std::find(kUpdaters.begin(), kUpdaters.end(), *name) != kUpdaters.end()) return *name;
  }
  return {};
}

}  // namespace bench
