#include "recorder/ring_writer.h"

#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <time.h>
#include <unistd.h>

#include <algorithm>
#include <new>

namespace recorder {
namespace {

constexpr std::size_t kBytes = sizeof(RingHeader) + RingHeader::kCapacity * sizeof(std::int64_t);

void copyText(char* to, std::size_t size, const char* from) {
  if (from == nullptr) return;
  const std::size_t length = std::min(strlen(from), size - 1);
  memcpy(to, from, length);
  to[length] = '\0';
}

void* mapNew(const char* path) {
  const int file = open(path, O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0600);
  if (file < 0) return nullptr;
  // Room on the disk now, so that a full one cannot kill the program by a bus error later.
  const bool has_room = posix_fallocate(file, 0, static_cast<off_t>(kBytes)) == 0;
  void* memory = has_room ? mmap(nullptr, kBytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0) : MAP_FAILED;
  close(file);
  return memory == MAP_FAILED ? nullptr : memory;
}

}  // namespace

bool isWanted() {
  const char* folder = getenv(kFolderVariable);
  return folder != nullptr && *folder != '\0';
}

RingWriter::RingWriter(const char* interface) {
  if (!isWanted()) return;
  static std::atomic<int> next = 0;
  char path[512];
  char part[520];
  const int length = snprintf(path, sizeof path, "%s/%s-%d-%d.ring", getenv(kFolderVariable), interface,
                              static_cast<int>(getpid()), next++);
  if (length <= 0 || static_cast<std::size_t>(length) >= sizeof path) return;
  snprintf(part, sizeof part, "%s.part", path);
  void* memory = mapNew(part);
  if (memory == nullptr) return;
  header_ = new (memory) RingHeader;
  header_->header_bytes = sizeof(RingHeader);
  header_->process = static_cast<std::uint32_t>(getpid());
  copyText(header_->interface, sizeof header_->interface, interface);
  copyText(header_->program, sizeof header_->program, program_invocation_short_name);
  times_ = reinterpret_cast<std::int64_t*>(header_ + 1);
  rename(part, path);
}

RingWriter::~RingWriter() {
  if (header_ != nullptr) munmap(header_, kBytes);
}

void RingWriter::describe(const char* device, const char* present_mode) {
  if (header_ == nullptr) return;
  copyText(header_->device, sizeof header_->device, device);
  copyText(header_->present_mode, sizeof header_->present_mode, present_mode);
}

void RingWriter::resize(std::uint32_t width, std::uint32_t height) {
  if (header_ == nullptr) return;
  header_->width.store(width, std::memory_order_relaxed);
  header_->height.store(height, std::memory_order_relaxed);
}

void RingWriter::present() {
  if (header_ == nullptr) return;
  timespec now{};
  clock_gettime(CLOCK_MONOTONIC, &now);
  constexpr std::int64_t kSecond = 1000000000;
  const std::uint64_t written = header_->written.load(std::memory_order_relaxed);
  times_[written % RingHeader::kCapacity] = now.tv_sec * kSecond + now.tv_nsec;
  header_->written.store(written + 1, std::memory_order_release);
}

}  // namespace recorder
