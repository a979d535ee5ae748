#include "cli/commands/shown_stream.h"

#include "core/values/shown_text.h"

namespace cli {

bool ShownStream::Buffer::pass(std::size_t bytes) {
  to_ << core::shownText(std::string_view(held_).substr(0, bytes));
  held_.erase(0, bytes);
  return to_.good();
}

ShownStream::Buffer::int_type ShownStream::Buffer::overflow(int_type c) {
  if (traits_type::eq_int_type(c, traits_type::eof())) return traits_type::not_eof(c);
  const char byte = traits_type::to_char_type(c);
  return xsputn(&byte, 1) == 1 ? c : traits_type::eof();
}

// Whole lines at a time: a character may come in two pieces.
std::streamsize ShownStream::Buffer::xsputn(const char* bytes, std::streamsize count) {
  held_.append(bytes, static_cast<std::size_t>(count));
  const auto end = held_.rfind('\n');
  return end == std::string::npos || pass(end + 1) ? count : 0;
}

int ShownStream::Buffer::sync() {
  const bool is_passed = pass(held_.size());
  return is_passed && to_.flush() ? 0 : -1;
}

}  // namespace cli
