#include "recorder/guest/own_process.h"

#include <fcntl.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <string>

#include "recorder/ring_layout.h"

namespace recorder {
namespace {

std::string wholeEnvironment() {
  std::string all;
  const int file = open("/proc/self/environ", O_RDONLY | O_CLOEXEC);
  if (file < 0) return all;
  char block[4096];
  for (ssize_t got = 0; (got = read(file, block, sizeof block)) > 0;) all.append(block, static_cast<std::size_t>(got));
  close(file);
  return all;
}

// A variable's value in a block of "NAME=value" texts that end in zeros.
std::string valueOf(const std::string& block, const std::string& name) {
  for (std::size_t at = 0; at < block.size(); at = std::min(block.find('\0', at), block.size()) + 1)
    if (block.compare(at, name.size() + 1, name + "=") == 0) return block.c_str() + at + name.size() + 1;
  // Some programs write their title over the block that the kernel shows.
  const char* living = getenv(name.c_str());
  return living != nullptr ? living : "";
}

bool hasWord(const std::string& list, const char* word) {
  return ("," + list + ",").find("," + std::string(word) + ",") != std::string::npos;
}

Wanted readWanted() {
  Wanted read;
  const std::string block = wholeEnvironment();
  const std::string folder = valueOf(block, kFolderVariable);
  if (folder.size() >= sizeof read.folder) return read;
  memcpy(read.folder, folder.c_str(), folder.size() + 1);
  const std::string x_display = valueOf(block, "DISPLAY");
  memcpy(read.x_display, x_display.c_str(), std::min(x_display.size(), sizeof read.x_display - 1));
  const std::string noted = valueOf(block, kNotedVariable);
  read.processor_time = hasWord(noted, kProcessorTime);
  read.shown_time = hasWord(noted, kShownTime);
  read.device_time = hasWord(noted, kDeviceTime);
  return read;
}

// A page that is all zeros again in a child, however it was forked.
std::atomic<int>* makeMark() {
  void* page = mmap(nullptr, sizeof(int), PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
  if (page == MAP_FAILED || madvise(page, 1, MADV_WIPEONFORK) != 0) {
    static std::atomic<int> never{1};
    return &never;
  }
  auto* mark = static_cast<std::atomic<int>*>(page);
  mark->store(1);
  return mark;
}

}  // namespace

const Wanted& wanted() {
  static const Wanted once = readWanted();
  return once;
}

bool isNewlyForked() {
  static std::atomic<int>* mark = makeMark();
  int zero = 0;
  return mark->load(std::memory_order_relaxed) == 0 && mark->compare_exchange_strong(zero, 1);
}

}  // namespace recorder
