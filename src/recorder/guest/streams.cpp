#include "recorder/guest/streams.h"

#include <array>
#include <atomic>
#include <cstring>
#include <mutex>
#include <new>

#include "recorder/guest/own_process.h"

namespace recorder {

thread_local int Nesting::depth_ = 0;

namespace {

constexpr std::size_t kMostSurfaces = 32;  // 1 MB each

// Read without a lock: `is_live` is stored last, and what it stands for changes only while it is false.
struct Place {
  std::atomic<bool> is_live = false;
  Surface surface{};
  std::atomic<Stream*> stream = nullptr;
};
std::array<Place, kMostSurfaces> places;
std::mutex making;

bool isSame(const Surface& a, const Surface& b) {
  return a.id == b.id && a.owner == b.owner && std::strcmp(a.interface, b.interface) == 0;
}

Place* find(const Surface& surface) {
  for (Place& place : places)
    if (place.is_live.load(std::memory_order_acquire) && isSame(place.surface, surface)) return &place;
  return nullptr;
}

// The parent's rings stay the parent's, and so does whatever thread of it held the lock.
void forget() {
  new (&making) std::mutex;
  for (Place& place : places) {
    place.is_live = false;
    place.stream = nullptr;
  }
}

// One whose surface has ended is continued; else an empty one.
Place* freePlace(const char* interface) {
  for (Place& place : places)
    if (!place.is_live && place.stream != nullptr && std::strcmp(place.surface.interface, interface) == 0)
      return &place;
  for (Place& place : places)
    if (!place.is_live && place.stream == nullptr) return &place;
  return nullptr;
}

}  // namespace

Stream* knownStreamOf(const Surface& surface) {
  if (!wanted().any()) return nullptr;
  if (isNewlyForked()) forget();
  const Place* place = find(surface);
  return place == nullptr ? nullptr : place->stream.load(std::memory_order_relaxed);
}

Stream* streamOf(const Surface& surface) {
  if (Stream* known = knownStreamOf(surface)) return known;
  if (!wanted().any()) return nullptr;
  const std::lock_guard lock(making);
  if (const Place* place = find(surface)) return place->stream;
  Place* place = freePlace(surface.interface);
  if (place == nullptr) return nullptr;
  if (place->stream == nullptr)
    place->stream = new (std::nothrow) Stream(surface.interface);
  else
    place->stream.load()->ring.beginSurface();
  place->surface = surface;
  place->is_live.store(true, std::memory_order_release);
  return place->stream;
}

void endSurface(const Surface& surface) {
  if (!wanted().any()) return;
  if (isNewlyForked()) return forget();
  const std::lock_guard lock(making);
  Place* place = find(surface);
  if (place == nullptr) return;
  // One ended ring waits for a surface that goes on in it; those before it are given back.
  for (Place& other : places)
    if (!other.is_live && other.stream != nullptr && std::strcmp(other.surface.interface, surface.interface) == 0)
      delete other.stream.exchange(nullptr);
  place->is_live = false;
  place->stream.load()->feedback.reset();
  place->stream.load()->is_described = false;
}

}  // namespace recorder
