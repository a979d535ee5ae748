#pragma once

#include <chrono>
#include <string>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace session {

using FarJson = nlohmann::json;

/// How long a message may take; without an end where the other side works at what was asked.
using FarDeadline = std::chrono::steady_clock::time_point;
[[nodiscard]] inline FarDeadline farDeadlineIn(double seconds) {
  return std::chrono::steady_clock::now() +
         std::chrono::duration_cast<std::chrono::steady_clock::duration>(std::chrono::duration<double>(seconds));
}
inline constexpr FarDeadline kNoDeadline = FarDeadline::max();

/// Messages between the program at the desk and the one at the bench, over two descriptors: four bytes with the length,
/// the highest first, then that many bytes of JSON, one object. What comes from the other side is bounded: no message
/// is larger than 8 MiB, or nested deeper than 16. Described in docs/bench-end.md. One thread at a time.
class MessageStream {
 public:
  static constexpr std::size_t kLargest = 8U << 20;
  static constexpr int kDeepest = 16;

  /// The descriptors stay their owner's.
  MessageStream(int in, int out) : in_(in), out_(out) {}

  /// Errors  Away: the other side has gone, or took nothing until the deadline; OutOfRange: the message is too large
  core::Status send(const FarJson& message, FarDeadline deadline = kNoDeadline);
  /// The next message. Errors  Away: nothing whole came until the deadline, or the other side has gone; Malformed: what
  /// came is no message, with its beginning
  [[nodiscard]] core::Result<FarJson> receive(FarDeadline deadline = kNoDeadline);
  [[nodiscard]] int input() const { return in_; }
  /// Does something wait to be read? Waits for it until the deadline.
  [[nodiscard]] bool hasMore(FarDeadline deadline);

 private:
  core::Status fill(std::size_t bytes, FarDeadline deadline);
  int in_;
  int out_;
  std::string waiting_;  ///< read, and not yet a whole message
};

/// The message that a body says. Errors  Malformed
[[nodiscard]] core::Result<FarJson> farMessageFrom(std::string_view body);

/// A field of a message: its text, empty where it is none; is it true?
[[nodiscard]] std::string farText(const FarJson& message, const char* name);
[[nodiscard]] bool farSays(const FarJson& message, const char* name);

/// An error as it crosses, and back; what is no error becomes Malformed.
[[nodiscard]] FarJson farErrorJson(const core::Error& error);
[[nodiscard]] core::Error farErrorFrom(const FarJson& json);

}  // namespace session
