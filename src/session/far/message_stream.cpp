#include "session/far/message_stream.h"

#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstdint>

#include "core/values/shown_text.h"
#include "store/json/json_text.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

constexpr std::size_t kHead = 4;

// What stands in a message of ours may be any text; what cannot be UTF-8 becomes what says so.
std::string bytesOf(const FarJson& message) {
  const std::string body = store::jsonText(message);
  std::string bytes;
  for (int shift = 24; shift >= 0; shift -= 8) bytes += static_cast<char>((body.size() >> shift) & 0xFF);
  return bytes + body;
}

int millisecondsUntil(FarDeadline deadline) {
  if (deadline == kNoDeadline) return -1;
  const auto left = std::chrono::ceil<std::chrono::milliseconds>(deadline - std::chrono::steady_clock::now()).count();
  constexpr std::int64_t kMost = 3'600'000;
  return static_cast<int>(std::clamp<std::int64_t>(left, 0, kMost));
}

// Until something can be read, or written; false where nothing could until then.
bool waitFor(int descriptor, short what, FarDeadline deadline) {
  pollfd one{descriptor, what, 0};
  for (;;) {
    const int ready = ::poll(&one, 1, millisecondsUntil(deadline));
    if (ready > 0) return true;
    if (ready == 0 || errno != EINTR) return false;
  }
}

Error gone(const char* what) { return {ErrorKind::Away, what, "", "See that it runs and is connected"}; }

Error noMessage(std::string_view came) {
  constexpr std::size_t kShown = 60;
  return {ErrorKind::Malformed,
          "what answered is not this program: it wrote " +
              core::shownWord(std::string(came.substr(0, std::min(came.find('\n'), kShown)))),
          "", "See that nothing writes into a login without a terminal there, such as a greeting"};
}

}  // namespace

core::Result<FarJson> farMessageFrom(std::string_view body) {
  int depth = 0;
  bool is_too_deep = false;
  const auto bounded = [&](int, FarJson::parse_event_t event, FarJson&) {
    using Event = FarJson::parse_event_t;
    if (event == Event::object_start || event == Event::array_start)
      is_too_deep = is_too_deep || ++depth > MessageStream::kDeepest;
    if (event == Event::object_end || event == Event::array_end) --depth;
    return !is_too_deep;
  };
  FarJson message = FarJson::parse(body, bounded, false);
  if (is_too_deep || !message.is_object()) return noMessage(body);
  return message;
}

core::Status MessageStream::send(const FarJson& message, FarDeadline deadline) {
  const std::string bytes = bytesOf(message);
  if (bytes.size() > kLargest + kHead)
    return Error{ErrorKind::OutOfRange, "a message is larger than any may be", "",
                 "Install the same version at both ends"};
  for (std::size_t sent = 0; sent < bytes.size();) {
    if (!waitFor(out_, POLLOUT, deadline)) return gone("it takes nothing any more");
    ssize_t done = ::send(out_, bytes.data() + sent, bytes.size() - sent, MSG_NOSIGNAL);
    if (done < 0 && errno == ENOTSOCK) done = ::write(out_, bytes.data() + sent, bytes.size() - sent);
    if (done < 0 && (errno == EINTR || errno == EAGAIN)) continue;
    if (done <= 0) return gone("the connection has ended");
    sent += static_cast<std::size_t>(done);
  }
  return core::Done{};
}

core::Status MessageStream::fill(std::size_t bytes, FarDeadline deadline) {
  std::array<char, 1 << 16> piece{};
  while (waiting_.size() < bytes) {
    if (!waitFor(in_, POLLIN, deadline)) return gone("it does not answer");
    const ssize_t got = ::read(in_, piece.data(), std::min(piece.size(), bytes - waiting_.size()));
    if (got < 0 && (errno == EINTR || errno == EAGAIN)) continue;
    if (got <= 0) return waiting_.empty() ? core::Status(gone("the connection has ended")) : noMessage(waiting_);
    waiting_.append(piece.data(), static_cast<std::size_t>(got));
  }
  return core::Done{};
}

core::Result<FarJson> MessageStream::receive(FarDeadline deadline) {
  if (auto head = fill(kHead, deadline); !head) return head.error();
  std::size_t length = 0;
  for (std::size_t i = 0; i < kHead; ++i) length = length << 8 | static_cast<unsigned char>(waiting_[i]);
  if (length > kLargest) {  // a greeting, read as a length, is far beyond
    (void)fill(200, std::min(deadline, farDeadlineIn(0.2)));
    return noMessage(waiting_);
  }
  if (auto body = fill(kHead + length, deadline); !body) return body.error();
  auto message = farMessageFrom(std::string_view(waiting_).substr(kHead));
  waiting_.clear();
  return message;
}

bool MessageStream::hasMore(FarDeadline deadline) { return !waiting_.empty() || waitFor(in_, POLLIN, deadline); }

std::string farText(const FarJson& message, const char* name) {
  const auto found = message.is_object() ? message.find(name) : message.end();
  return found != message.end() && found->is_string() ? found->get<std::string>() : std::string();
}

bool farSays(const FarJson& message, const char* name) {
  const auto found = message.is_object() ? message.find(name) : message.end();
  return found != message.end() && found->is_boolean() && found->get<bool>();
}

FarJson farErrorJson(const core::Error& error) {
  return {{"kind", core::errorKindName(error.kind)},
          {"what", error.what},
          {"where", error.where},
          {"remedy", error.remedy}};
}

core::Error farErrorFrom(const FarJson& json) {
  Error error{ErrorKind::Malformed, farText(json, "what"), farText(json, "where"), farText(json, "remedy")};
  if (error.what.empty()) error.what = "it failed and does not say why";
  for (int i = 0; i <= static_cast<int>(ErrorKind::Away); ++i)
    if (farText(json, "kind") == core::errorKindName(static_cast<ErrorKind>(i))) error.kind = static_cast<ErrorKind>(i);
  return error;
}

}  // namespace session
