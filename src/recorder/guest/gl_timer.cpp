#include "recorder/guest/gl_timer.h"

#include <string.h>

#include <atomic>
#include <type_traits>

#include "recorder/guest/ring_writer.h"

namespace recorder {
namespace {

constexpr unsigned kVersion = 0x1F02;
constexpr unsigned kExtensions = 0x1F03;
constexpr std::uint32_t kTimestamp = 0x8E28;
constexpr std::uint32_t kCounterBits = 0x8864;
constexpr std::uint32_t kResult = 0x8866;
constexpr std::uint32_t kIsThere = 0x8867;

std::atomic<unsigned> gone = 0;  // contexts

// Of "4.5 (Compatibility Profile) …"; the functions of "OpenGL ES 3.2 …" carry the extension's suffix.
bool isEs(const char* version) { return strncmp(version, "OpenGL ES", 9) == 0; }
bool isSince33(const char* version) {
  const bool is_number = version[0] >= '1' && version[0] <= '9' && version[1] == '.';
  return is_number && (version[0] > '3' || (version[0] == '3' && version[2] >= '3'));
}

}  // namespace

void GlTimer::forgetContexts() { gone.fetch_add(1, std::memory_order_relaxed); }

bool GlTimer::canTime() {
  auto* const get_string = library_.glFunction<const char*(unsigned)>("glGetString");
  const char* version = get_string == nullptr ? nullptr : get_string(kVersion);
  if (version == nullptr) return false;
  const bool is_es = isEs(version);
  const char* extensions = is_es ? get_string(kExtensions) : nullptr;
  const bool has_time = extensions != nullptr && strstr(extensions, "GL_EXT_disjoint_timer_query") != nullptr;
  if (is_es ? !has_time : !isSince33(version)) return false;
  const auto take = [&](auto& function, const char* name, const char* es_name) {
    function =
        library_.glFunction<std::remove_pointer_t<std::remove_reference_t<decltype(function)>>>(is_es ? es_name : name);
    return function != nullptr;
  };
  void (*ask)(std::uint32_t, std::uint32_t, std::int32_t*) = nullptr;
  std::int32_t bits = 0;
  if (take(ask, "glGetQueryiv", "glGetQueryivEXT")) ask(kTimestamp, kCounterBits, &bits);
  return bits > 0 && take(call_.generate, "glGenQueries", "glGenQueriesEXT") &&
         take(call_.say, "glGetQueryObjectiv", "glGetQueryObjectivEXT") &&
         take(call_.read, "glGetQueryObjectui64v", "glGetQueryObjectui64vEXT") &&
         take(call_.stamp, "glQueryCounter", "glQueryCounterEXT");
}

void GlTimer::begin(const void* context) {
  context_ = context;
  generation_ = gone.load(std::memory_order_relaxed);
  slots_ = {};
  next_ = 0;
  if (!canTime()) {
    call_ = {};
    return;
  }
  std::array<std::uint32_t, 2 * kSlots> queries{};
  call_.generate(2 * kSlots, queries.data());
  for (std::uint32_t i = 0; i < kSlots; ++i) {
    slots_[i].begin = queries[2 * i];
    slots_[i].end = queries[2 * i + 1];
  }
}

bool GlTimer::isAble() {
  const void* context = current_context_();
  if (context == nullptr) return false;
  if (context != context_ || generation_ != gone.load(std::memory_order_relaxed)) begin(context);
  return call_.stamp != nullptr;
}

void GlTimer::beforeSwap(RingWriter& ring) {
  if (!isAble()) return;
  collect(ring);  // of the frames before: their commands are on their way since they were handed over
  Slot& slot = slots_[next_];
  if (slot.stage != Stage::Begun) return;
  slot.stage = Stage::Ended;
  slot.frame = ring.next();
  call_.stamp(slot.end, kTimestamp);
  next_ = (next_ + 1) % kSlots;
}

void GlTimer::afterSwap() {
  if (!isAble()) return;
  Slot& slot = slots_[next_];
  if (slot.stage == Stage::Ended) return;  // the device is far behind: this frame goes untimed
  slot.stage = Stage::Begun;               // anew, where the last hand-over was refused
  call_.stamp(slot.begin, kTimestamp);
}

bool GlTimer::isThere(std::uint32_t query) const {
  std::int32_t is_there = 0;
  call_.say(query, kIsThere, &is_there);
  return is_there != 0;
}

std::uint64_t GlTimer::moment(std::uint32_t query) const {
  std::uint64_t ns = 0;
  call_.read(query, kResult, &ns);
  return ns;
}

void GlTimer::collect(RingWriter& ring) {
  for (Slot& slot : slots_) {
    if (slot.stage != Stage::Ended || !isThere(slot.end) || !isThere(slot.begin)) continue;
    const std::uint64_t begin = moment(slot.begin);
    const std::uint64_t end = moment(slot.end);
    if (end > begin) ring.deviceTook(slot.frame, static_cast<std::int64_t>(end - begin));
    slot.stage = Stage::Free;
  }
}

}  // namespace recorder
