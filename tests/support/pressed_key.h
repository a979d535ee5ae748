// Keys pressed on an X display, as a keyboard would.
#pragma once

#include <xcb/xcb_keysyms.h>
#include <xcb/xtest.h>

#include <cstdlib>
#include <initializer_list>
#include <string>
#include <vector>

namespace support {

/// The server changes its keyboard's map while keys arrive: for a moment a key may have no code.
inline xcb_keycode_t codeOf(xcb_connection_t* server, xcb_keysym_t key) {
  for (;;) {
    xcb_key_symbols_t* const symbols = xcb_key_symbols_alloc(server);
    xcb_keycode_t* const codes = xcb_key_symbols_get_keycode(symbols, key);
    const xcb_keycode_t code = codes != nullptr ? codes[0] : XCB_NO_SYMBOL;
    std::free(codes);
    xcb_key_symbols_free(symbols);
    if (code != XCB_NO_SYMBOL || xcb_connection_has_error(server) != 0) return code;
  }
}

/// Presses the keys one after the other and lets go of them in reverse. Shapes  keysyms of the X protocol
inline void pressKeys(const std::string& display, std::initializer_list<xcb_keysym_t> keys) {
  xcb_connection_t* const server = xcb_connect(display.c_str(), nullptr);
  std::vector<xcb_keycode_t> held;
  const auto send = [&](std::uint8_t type, xcb_keycode_t code) {
    xcb_test_fake_input(server, type, code, XCB_CURRENT_TIME, XCB_NONE, 0, 0, 0);
  };
  for (const xcb_keysym_t key : keys) {
    held.push_back(codeOf(server, key));
    send(XCB_KEY_PRESS, held.back());
  }
  for (; !held.empty(); held.pop_back()) send(XCB_KEY_RELEASE, held.back());
  std::free(xcb_get_input_focus_reply(server, xcb_get_input_focus(server), nullptr));  // the server has seen them all
  xcb_disconnect(server);
}

/// Has any program a window there?
inline bool hasWindow(const std::string& display) {
  xcb_connection_t* const server = xcb_connect(display.c_str(), nullptr);
  bool has_any = false;
  if (xcb_connection_has_error(server) == 0) {
    const xcb_window_t root = xcb_setup_roots_iterator(xcb_get_setup(server)).data->root;
    xcb_query_tree_reply_t* const tree = xcb_query_tree_reply(server, xcb_query_tree(server, root), nullptr);
    has_any = tree != nullptr && tree->children_len > 0;
    std::free(tree);
  }
  xcb_disconnect(server);
  return has_any;
}

constexpr xcb_keysym_t kControlKey = 0xFFE3;
constexpr xcb_keysym_t kAltKey = 0xFFE9;
constexpr xcb_keysym_t kNumLockKey = 0xFF7F;
constexpr xcb_keysym_t kSpaceKey = 0x20;

}  // namespace support
