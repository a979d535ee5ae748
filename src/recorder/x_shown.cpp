#include "recorder/x_shown.h"

#include <xcb/present.h>
#include <xcb/xcb.h>

#include <cstdlib>

#include "recorder/ring_layout.h"

namespace recorder {
namespace {

struct Free {
  void operator()(void* memory) const { std::free(memory); }
};
template <class Reply>
using Owned = std::unique_ptr<Reply, Free>;

// As its program has set it; empty where it has none.
std::string titleOf(xcb_connection_t* connection, xcb_window_t window) {
  constexpr std::uint32_t kLongestWords = 64;
  const Owned<xcb_get_property_reply_t> property(xcb_get_property_reply(
      connection,
      xcb_get_property(connection, 0, window, XCB_ATOM_WM_NAME, XCB_GET_PROPERTY_TYPE_ANY, 0, kLongestWords), nullptr));
  if (!property || property->format != 8) return {};
  return {static_cast<const char*>(xcb_get_property_value(property.get())),
          static_cast<std::size_t>(xcb_get_property_value_length(property.get()))};
}

}  // namespace

std::unique_ptr<XShown> XShown::on(const std::string& display) {
  std::unique_ptr<XShown> made(new XShown(xcb_connect(display.c_str(), nullptr)));
  if (xcb_connection_has_error(made->connection_) != 0) return nullptr;
  const xcb_query_extension_reply_t* extension = xcb_get_extension_data(made->connection_, &xcb_present_id);
  if (extension == nullptr || extension->present == 0) return nullptr;
  made->opcode_ = extension->major_opcode;
  return made;
}

XShown::~XShown() { xcb_disconnect(connection_); }

bool XShown::watch(std::uint32_t window) {
  const Owned<xcb_get_geometry_reply_t> geometry(
      xcb_get_geometry_reply(connection_, xcb_get_geometry(connection_, window), nullptr));
  if (!geometry) return false;
  windows_[window] = {titleOf(connection_, window), geometry->width, geometry->height, {}};
  xcb_present_select_input(connection_, xcb_generate_id(connection_), window,
                           XCB_PRESENT_EVENT_MASK_COMPLETE_NOTIFY | XCB_PRESENT_EVENT_MASK_CONFIGURE_NOTIFY);
  xcb_flush(connection_);
  return true;
}

void XShown::look() {
  while (const Owned<xcb_generic_event_t> event{xcb_poll_for_event(connection_)}) {
    if ((event->response_type & 0x7FU) != XCB_GE_GENERIC) continue;
    const auto* generic = reinterpret_cast<const xcb_ge_generic_event_t*>(event.get());
    if (generic->extension != opcode_) continue;
    if (generic->event_type == XCB_PRESENT_CONFIGURE_NOTIFY) {
      const auto* changed = reinterpret_cast<const xcb_present_configure_notify_event_t*>(generic);
      if (const auto found = windows_.find(changed->window); found != windows_.end()) {
        found->second.width = changed->width;
        found->second.height = changed->height;
      }
    }
    if (generic->event_type != XCB_PRESENT_COMPLETE_NOTIFY) continue;
    const auto* shown = reinterpret_cast<const xcb_present_complete_notify_event_t*>(generic);
    const auto found = windows_.find(shown->window);
    if (found == windows_.end() || shown->kind != XCB_PRESENT_COMPLETE_KIND_PIXMAP) continue;
    constexpr std::int64_t kNsPerUs = 1000;
    found->second.pictures.push_back({shown->serial, static_cast<std::int64_t>(shown->ust) * kNsPerUs,
                                      shown->mode == XCB_PRESENT_COMPLETE_MODE_SKIP, shown->msc});
  }
}

XShown::Window XShown::take(std::uint32_t window) {
  const auto found = windows_.find(window);
  if (found == windows_.end()) return {};
  Window taken = found->second;
  found->second.pictures.clear();
  return taken;
}

int enterShown(std::vector<XShown::Window::Picture>& pictures, std::vector<RecordedFrame>& frames) {
  constexpr std::int64_t kResolution = 1000;  // the server's clock counts microseconds
  int unfit = 0;
  std::size_t next = 0;   // handed over after the picture's moment
  std::size_t begin = 0;  // of the surface that showed at that moment: a later one counts anew
  std::vector<XShown::Window::Picture> early;
  for (const auto& picture : pictures) {
    for (; next < frames.size() && frames[next].handed_over <= picture.moment + kResolution; ++next)
      if (frames[next].begins_surface) begin = next;
    const std::size_t at = begin + picture.serial - 1;
    if (picture.serial != 0 && at >= frames.size())
      early.push_back(picture);
    else if (picture.serial == 0 || frames[at].handed_over > picture.moment + kResolution)
      ++unfit;
    else {
      frames[at].shown = picture.is_skipped ? FrameRecord::kNeverShown : picture.moment;
      frames[at].refresh = picture.is_skipped ? 0 : picture.refresh;
    }
  }
  pictures = std::move(early);
  return unfit;
}

}  // namespace recorder
