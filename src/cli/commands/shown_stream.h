#pragma once

#include <ostream>
#include <streambuf>
#include <string>

namespace cli {

/// A stream for a terminal: whatever a study says is shown as it is (core::shownText), so that no name moves the cursor
/// or turns a line around. JSON passes unchanged: store::jsonText escapes such signs.
class ShownStream final : public std::ostream {
 public:
  /// `to` outlives the stream.
  explicit ShownStream(std::ostream& to) : std::ostream(&buffer_), buffer_(to) {}
  ~ShownStream() override { flush(); }

 private:
  class Buffer final : public std::streambuf {
   public:
    explicit Buffer(std::ostream& to) : to_(to) {}

   protected:
    int_type overflow(int_type c) override;
    std::streamsize xsputn(const char* bytes, std::streamsize count) override;
    int sync() override;

   private:
    bool pass(std::size_t bytes);
    std::ostream& to_;
    std::string held_;  ///< since the last line break
  };
  Buffer buffer_;
};

}  // namespace cli
