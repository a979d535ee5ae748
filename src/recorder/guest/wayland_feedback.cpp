#include "recorder/guest/wayland_feedback.h"

#include <dlfcn.h>
#include <time.h>
#include <wayland-util.h>

#include <algorithm>
#include <cstring>
#include <vector>

#include "recorder/guest/ring_writer.h"

namespace recorder {
namespace {

using Proxy = void;
using Listener = void (**)(void);

// The functions of the program's own libwayland-client, by their published signatures.
struct Library {
  void* (*create_queue)(void* display) = nullptr;
  void (*destroy_queue)(void* queue) = nullptr;
  Proxy* (*create_wrapper)(Proxy* proxy) = nullptr;
  void (*destroy_wrapper)(Proxy* wrapper) = nullptr;
  void (*set_queue)(Proxy* proxy, void* queue) = nullptr;
  Proxy* (*construct)(Proxy* proxy, std::uint32_t opcode, const wl_interface* interface, ...) = nullptr;
  Proxy* (*construct_versioned)(Proxy* proxy, std::uint32_t opcode, const wl_interface* interface,
                                std::uint32_t version, ...) = nullptr;
  void (*marshal)(Proxy* proxy, std::uint32_t opcode, ...) = nullptr;
  int (*add_listener)(Proxy* proxy, Listener listener, void* data) = nullptr;
  void (*destroy)(Proxy* proxy) = nullptr;
  int (*round_trip)(void* display, void* queue) = nullptr;
  int (*dispatch_pending)(void* display, void* queue) = nullptr;
  const wl_interface* registry = nullptr;
  const wl_interface* display = nullptr;

  [[nodiscard]] bool isComplete() const {
    return create_queue && destroy_queue && create_wrapper && destroy_wrapper && set_queue && construct &&
           construct_versioned && marshal && add_listener && destroy && round_trip && dispatch_pending && registry;
  }
};

Library findLibrary() {
  Library found;
  void* handle = dlopen("libwayland-client.so.0", RTLD_LAZY | RTLD_NOLOAD);
  if (handle == nullptr) return found;
  const auto take = [&](auto& function, const char* name) {
    function = reinterpret_cast<std::remove_reference_t<decltype(function)>>(dlsym(handle, name));
  };
  take(found.create_queue, "wl_display_create_queue");
  take(found.destroy_queue, "wl_event_queue_destroy");
  take(found.create_wrapper, "wl_proxy_create_wrapper");
  take(found.destroy_wrapper, "wl_proxy_wrapper_destroy");
  take(found.set_queue, "wl_proxy_set_queue");
  take(found.construct, "wl_proxy_marshal_constructor");
  take(found.construct_versioned, "wl_proxy_marshal_constructor_versioned");
  take(found.marshal, "wl_proxy_marshal");
  take(found.add_listener, "wl_proxy_add_listener");
  take(found.destroy, "wl_proxy_destroy");
  take(found.round_trip, "wl_display_roundtrip_queue");
  take(found.dispatch_pending, "wl_display_dispatch_queue_pending");
  take(found.registry, "wl_registry_interface");
  take(found.display, "wl_display_interface");
  return found;
}

// The interface "presentation-time", version 1, as its protocol describes it.
const wl_interface* no_types[8] = {};
const wl_message feedback_events[] = {
    {"sync_output", "o", no_types}, {"presented", "uuuuuuu", no_types}, {"discarded", "", no_types}};
const wl_interface feedback_interface = {"wp_presentation_feedback", 1, 0, nullptr, 3, feedback_events};
const wl_interface* feedback_types[] = {nullptr, &feedback_interface};
const wl_message presentation_requests[] = {{"destroy", "", no_types}, {"feedback", "on", feedback_types}};
const wl_message presentation_events[] = {{"clock_id", "u", no_types}};
const wl_interface presentation_interface = {"wp_presentation", 1, 2, presentation_requests, 1, presentation_events};
constexpr std::uint32_t kGetRegistry = 1;
constexpr std::uint32_t kBind = 0;
constexpr std::uint32_t kDestroyPresentation = 0;
constexpr std::uint32_t kFeedback = 1;

}  // namespace

struct WaylandFeedback::State {
  Library library;
  void* display = nullptr;
  void* surface = nullptr;
  void* queue = nullptr;
  RingWriter* ring = nullptr;
  Proxy* registry = nullptr;
  Proxy* presentation = nullptr;
  std::uint32_t clock = UINT32_MAX;

  struct Pending {
    State* state;
    Proxy* proxy;
    std::uint64_t frame;
  };
  std::vector<std::unique_ptr<Pending>> pending;

  void settle(Pending* settled, std::int64_t moment, std::uint64_t refresh) {
    ring->shown(settled->frame, moment, refresh);
    library.destroy(settled->proxy);
    std::erase_if(pending, [settled](const auto& one) { return one.get() == settled; });
  }
  ~State() {
    for (const auto& one : pending) library.destroy(one->proxy);
    if (presentation != nullptr) {
      library.marshal(presentation, kDestroyPresentation);
      library.destroy(presentation);
    }
    if (registry != nullptr) library.destroy(registry);
    if (queue != nullptr) library.destroy_queue(queue);
  }
};

namespace {

using State = WaylandFeedback::State;

constexpr std::int64_t kSecond = 1000000000;
std::int64_t now(clockid_t clock) {
  timespec time{};
  clock_gettime(clock, &time);
  return time.tv_sec * kSecond + time.tv_nsec;
}

// A compositor chooses its clock. By how much ours is ahead of it, at this moment: what it tells of is milliseconds
// old.
std::int64_t aheadOf(std::uint32_t clock) {
  return clock == CLOCK_MONOTONIC ? 0 : now(CLOCK_MONOTONIC) - now(static_cast<clockid_t>(clock));
}

void onGlobal(void* data, Proxy* registry, std::uint32_t name, const char* interface, std::uint32_t /*version*/) {
  auto& state = *static_cast<State*>(data);
  if (std::strcmp(interface, presentation_interface.name) != 0 || state.presentation != nullptr) return;
  state.presentation = state.library.construct_versioned(registry, kBind, &presentation_interface, 1, name,
                                                         presentation_interface.name, 1, nullptr);
}
void onGlobalRemoved(void* /*data*/, Proxy* /*registry*/, std::uint32_t /*name*/) {}
void onClock(void* data, Proxy* /*presentation*/, std::uint32_t clock) { static_cast<State*>(data)->clock = clock; }
void onOutput(void* /*data*/, Proxy* /*feedback*/, Proxy* /*output*/) {}
// NOLINTNEXTLINE(readability-function-size): as many arguments as the protocol has
void onPresented(void* data, Proxy* /*feedback*/, std::uint32_t seconds_high, std::uint32_t seconds_low,
                 std::uint32_t nanoseconds, std::uint32_t /*refresh*/, std::uint32_t count_high,
                 std::uint32_t count_low, std::uint32_t /*flags*/) {
  auto* settled = static_cast<State::Pending*>(data);
  const auto seconds = static_cast<std::int64_t>(std::uint64_t{seconds_high} << 32U | seconds_low);
  const std::int64_t moment = seconds * kSecond + nanoseconds;
  settled->state->settle(settled, moment + aheadOf(settled->state->clock),
                         std::uint64_t{count_high} << 32U | count_low);
}
void onDiscarded(void* data, Proxy* /*feedback*/) {
  auto* settled = static_cast<State::Pending*>(data);
  settled->state->settle(settled, FrameRecord::kNeverShown, 0);
}

using Function = void (*)();
Function registry_listener[] = {reinterpret_cast<Function>(onGlobal), reinterpret_cast<Function>(onGlobalRemoved)};
Function presentation_listener[] = {reinterpret_cast<Function>(onClock)};
Function feedback_listener[] = {reinterpret_cast<Function>(onOutput), reinterpret_cast<Function>(onPresented),
                                reinterpret_cast<Function>(onDiscarded)};

}  // namespace

WaylandFeedback::WaylandFeedback(std::unique_ptr<State> state) : state_(std::move(state)) {}
WaylandFeedback::~WaylandFeedback() = default;

std::unique_ptr<WaylandFeedback> WaylandFeedback::of(void* display, void* surface, RingWriter& ring) {
  auto state = std::make_unique<State>();
  state->library = findLibrary();
  const Library& library = state->library;
  if (display == nullptr || surface == nullptr || !library.isComplete()) return nullptr;
  state->display = display;
  state->surface = surface;
  state->ring = &ring;
  state->queue = library.create_queue(display);
  Proxy* wrapper = state->queue != nullptr ? library.create_wrapper(display) : nullptr;
  if (wrapper == nullptr) return nullptr;
  library.set_queue(wrapper, state->queue);
  state->registry = library.construct(wrapper, kGetRegistry, library.registry, nullptr);
  library.destroy_wrapper(wrapper);
  if (state->registry == nullptr) return nullptr;
  library.add_listener(state->registry, registry_listener, state.get());
  library.round_trip(display, state->queue);
  if (state->presentation == nullptr) return nullptr;
  library.add_listener(state->presentation, presentation_listener, state.get());
  library.round_trip(display, state->queue);
  timespec known{};
  if (clock_gettime(static_cast<clockid_t>(state->clock), &known) != 0) return nullptr;
  return std::unique_ptr<WaylandFeedback>(new WaylandFeedback(std::move(state)));
}

void WaylandFeedback::beforeCommit() {
  const Library& library = state_->library;
  library.dispatch_pending(state_->display, state_->queue);
  constexpr std::size_t kMostPending = 64;
  if (state_->pending.size() >= kMostPending) return;  // nobody reads the connection
  Proxy* proxy = library.construct(state_->presentation, kFeedback, &feedback_interface, state_->surface, nullptr);
  if (proxy == nullptr) return;
  state_->pending.push_back(
      std::make_unique<State::Pending>(State::Pending{state_.get(), proxy, state_->ring->next()}));
  library.add_listener(proxy, feedback_listener, state_->pending.back().get());
}

// Its first word is the interface that it speaks.
bool isWaylandDisplay(void* address) {
  const Library library = findLibrary();
  return library.display != nullptr && address != nullptr && *static_cast<void**>(address) == library.display;
}

}  // namespace recorder
