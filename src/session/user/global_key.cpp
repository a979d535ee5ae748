#include "session/user/global_key.h"

#include <xcb/xcb.h>
#include <xcb/xcb_keysyms.h>

#include <array>
#include <cstdlib>

namespace session {
namespace {

constexpr xcb_keysym_t kSpace = 0x20;  // a keysym of Latin 1 is its character
constexpr std::uint16_t kControlAlt = XCB_MOD_MASK_CONTROL | XCB_MOD_MASK_1;
// Locks are modifiers too: with each of them on or off the key is another one.
constexpr std::array<std::uint16_t, 4> kLocks{0, XCB_MOD_MASK_LOCK, XCB_MOD_MASK_2, XCB_MOD_MASK_LOCK | XCB_MOD_MASK_2};

template <class T>
using FromServer = std::unique_ptr<T, decltype(&std::free)>;

std::vector<xcb_keycode_t> codesOf(xcb_connection_t* connection, xcb_keysym_t wanted) {
  std::vector<xcb_keycode_t> codes;
  xcb_key_symbols_t* const symbols = xcb_key_symbols_alloc(connection);
  const FromServer<xcb_keycode_t> found(xcb_key_symbols_get_keycode(symbols, wanted), &std::free);
  for (const xcb_keycode_t* code = found.get(); code != nullptr && *code != XCB_NO_SYMBOL; ++code)
    codes.push_back(*code);
  xcb_key_symbols_free(symbols);
  return codes;
}

}  // namespace

void GlobalKey::Closer::operator()(xcb_connection_t* connection) const { xcb_disconnect(connection); }

GlobalKey::GlobalKey(QByteArray display, QObject* parent) : QObject(parent), display_(std::move(display)) {}

GlobalKey::~GlobalKey() = default;

bool GlobalKey::hold(bool is_wanted) {
  if (is_wanted == isHeld()) return isHeld();
  notifier_.reset();
  connection_.reset();  // the server gives back what a connection held
  if (!is_wanted) return false;
  connection_.reset(xcb_connect(display_.isEmpty() ? nullptr : display_.constData(), nullptr));
  if (xcb_connection_has_error(connection_.get()) != 0 || !grab()) {
    connection_.reset();
    return false;
  }
  notifier_ = std::make_unique<QSocketNotifier>(xcb_get_file_descriptor(connection_.get()), QSocketNotifier::Read);
  connect(notifier_.get(), &QSocketNotifier::activated, this, &GlobalKey::read);
  return true;
}

bool GlobalKey::grab() {
  xcb_connection_t* const server = connection_.get();
  const std::vector<xcb_keycode_t> codes = codesOf(server, kSpace);
  for (xcb_screen_iterator_t screen = xcb_setup_roots_iterator(xcb_get_setup(server)); screen.rem > 0;
       xcb_screen_next(&screen))
    for (const xcb_keycode_t code : codes)
      for (const std::uint16_t lock : kLocks) {
        const auto asked = xcb_grab_key_checked(server, 0, screen.data->root, kControlAlt | lock, code,
                                                XCB_GRAB_MODE_ASYNC, XCB_GRAB_MODE_ASYNC);
        const FromServer<xcb_generic_error_t> refused(xcb_request_check(server, asked), &std::free);
        if (refused) return false;
      }
  return !codes.empty();
}

void GlobalKey::read() {
  while (const FromServer<xcb_generic_event_t> event{xcb_poll_for_event(connection_.get()), &std::free})
    if ((event->response_type & 0x7F) == XCB_KEY_PRESS) Q_EMIT pressed();
  if (xcb_connection_has_error(connection_.get()) != 0) hold(false);  // the server is gone
}

}  // namespace session
