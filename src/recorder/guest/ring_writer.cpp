#include "recorder/guest/ring_writer.h"

#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

#include <algorithm>
#include <new>

#include "recorder/guest/own_process.h"

namespace recorder {
namespace {

constexpr std::size_t kBytes = sizeof(RingHeader) + RingHeader::kCapacity * sizeof(FrameRecord);

std::int64_t now(clockid_t clock) {
  timespec time{};
  clock_gettime(clock, &time);
  constexpr std::int64_t kSecond = 1000000000;
  return time.tv_sec * kSecond + time.tv_nsec;
}

void copyText(char* to, std::size_t size, const char* from) {
  if (from == nullptr) return;
  const std::size_t length = std::min(strlen(from), size - 1);
  memcpy(to, from, length);
  to[length] = '\0';
}

// A program may have a limit on the size of its files, which kills it: then a file of the recording's own is taken.
bool mayGrow() {
  rlimit most{};
  return getrlimit(RLIMIT_FSIZE, &most) != 0 || most.rlim_cur == RLIM_INFINITY || most.rlim_cur >= kBytes;
}

// Whoever renames it first has it.
bool takeSpare(const char* path) {
  char spare[512];
  for (int i = 0; i < kSpareRings; ++i) {
    const int length = snprintf(spare, sizeof spare, "%s/%s%d", wanted().folder, kSpareRing, i);
    if (length > 0 && static_cast<std::size_t>(length) < sizeof spare && rename(spare, path) == 0) return true;
  }
  return false;
}

// Room now, so that a full file system cannot kill the program by a bus error later.
bool makeRoom(int file) {
  struct stat found {};
  if (fstat(file, &found) == 0 && found.st_size == static_cast<off_t>(kBytes)) return true;
  return mayGrow() && posix_fallocate(file, 0, static_cast<off_t>(kBytes)) == 0;
}

void* mapNew(const char* path) {
  const int how = mayGrow() ? O_CREAT | O_EXCL : takeSpare(path) ? 0 : -1;
  const int file = how < 0 ? -1 : open(path, O_RDWR | how | O_CLOEXEC | O_NOFOLLOW, 0600);
  if (file < 0) return nullptr;
  void* memory = makeRoom(file) ? mmap(nullptr, kBytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0) : MAP_FAILED;
  close(file);
  if (memory == MAP_FAILED) unlink(path);
  return memory == MAP_FAILED ? nullptr : memory;
}

RingHeader* makeRing() {
  if (!wanted().any()) return nullptr;
  static std::atomic<int> next = 0;
  char path[512];
  char part[520];
  const int length = snprintf(path, sizeof path, "%s/%d-%d.ring", wanted().folder, static_cast<int>(getpid()), next++);
  if (length <= 0 || static_cast<std::size_t>(length) >= sizeof path) return nullptr;
  snprintf(part, sizeof part, "%s.part", path);
  const int error_of_program = errno;
  RingHeader* header = nullptr;
  if (void* memory = mapNew(part)) {
    header = new (memory) RingHeader;
    header->header_bytes = sizeof(RingHeader);
    header->process = static_cast<std::uint32_t>(getpid());
    copyText(header->program, sizeof header->program, program_invocation_short_name);
    rename(part, path);
  }
  errno = error_of_program;
  return header;
}

std::atomic<RingHeader*> reserved = nullptr;

// A child's memory shows its parent's too.
RingHeader* takeReserved() {
  RingHeader* header = reserved.exchange(nullptr);
  if (header == nullptr || header->process == static_cast<std::uint32_t>(getpid())) return header;
  munmap(header, kBytes);
  return nullptr;
}

}  // namespace

void RingWriter::reserve() {
  RingHeader* header = takeReserved();
  if (header == nullptr) header = makeRing();
  RingHeader* none = nullptr;
  if (header != nullptr && !reserved.compare_exchange_strong(none, header)) munmap(header, kBytes);
}

RingWriter::RingWriter(const char* interface) {
  header_ = takeReserved();
  if (header_ == nullptr) header_ = makeRing();
  if (header_ == nullptr) return;
  copyText(header_->interface, sizeof header_->interface, interface);
  records_ = reinterpret_cast<FrameRecord*>(header_ + 1);
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

void RingWriter::place(const char* display, std::uint64_t window) {
  if (header_ == nullptr) return;
  copyText(header_->display, sizeof header_->display, display);
  header_->window = window;
}

void RingWriter::beginSurface() { begins_surface_ = true; }

RingWriter::Frame RingWriter::handOver() {
  Frame frame;
  frame.handed_over = now(CLOCK_MONOTONIC);
  if (!wanted().processor_time) return frame;
  frame.thread_time = now(CLOCK_THREAD_CPUTIME_ID);
  // The kernel adds up all threads for it: now and then is enough.
  constexpr std::int64_t kEvery = 10'000'000;
  static thread_local std::int64_t noted = 0;
  if (frame.handed_over - noted < kEvery) return frame;
  noted = frame.handed_over;
  frame.process_time = now(CLOCK_PROCESS_CPUTIME_ID);
  return frame;
}

std::uint64_t RingWriter::returned(const Frame& frame, std::uint32_t submissions) {
  if (header_ == nullptr) return 0;
  const std::uint64_t written = header_->written.load(std::memory_order_relaxed);
  FrameRecord& record = records_[written % RingHeader::kCapacity];
  record.handed_over = frame.handed_over;
  record.returned = now(CLOCK_MONOTONIC);
  record.thread_time = frame.thread_time;
  record.process_time = frame.process_time;
  record.shown.store(FrameRecord::kNotKnown, std::memory_order_relaxed);
  record.refresh.store(0, std::memory_order_relaxed);
  record.device_time.store(0, std::memory_order_relaxed);
  record.submissions = submissions;
  record.begins_surface = begins_surface_ ? 1 : 0;
  begins_surface_ = false;
  header_->written.store(written + 1, std::memory_order_release);
  return written;
}

// Nothing where it has been written over since, or is not written yet.
FrameRecord* RingWriter::recordOf(std::uint64_t frame) const {
  if (header_ == nullptr) return nullptr;
  const std::uint64_t written = header_->written.load(std::memory_order_relaxed);
  return frame < written && written - frame <= RingHeader::kCapacity ? &records_[frame % RingHeader::kCapacity]
                                                                     : nullptr;
}

void RingWriter::shown(std::uint64_t frame, std::int64_t moment, std::uint64_t refresh) {
  FrameRecord* record = recordOf(frame);
  if (record == nullptr) return;
  record->refresh.store(refresh, std::memory_order_relaxed);
  record->shown.store(moment, std::memory_order_relaxed);
}

void RingWriter::deviceTook(std::uint64_t frame, std::int64_t duration) {
  if (FrameRecord* record = recordOf(frame)) record->device_time.store(duration, std::memory_order_relaxed);
}

std::uint64_t RingWriter::next() const {
  return header_ == nullptr ? 0 : header_->written.load(std::memory_order_relaxed);
}

}  // namespace recorder
