#pragma once

#include <ostream>
#include <streambuf>
#include <string>

#include <nlohmann/json.hpp>

#include "core/record/pass.h"
#include "session/sheet/session.h"

namespace cli {

/// What a sheet says as it runs, for scripts: one JSON object a line, each with `event`, and `text` where a person
/// would read a line. `said`: a line; `pass`: one was filed; `ended`: the last, with the exit `code`, and `error` where
/// one ended it.
class JsonProgress final : private std::streambuf {
 public:
  /// `out` outlives it.
  explicit JsonProgress(std::ostream& out) : out_(out), said_(this) {}
  /// Whatever is written there becomes events, line by line.
  [[nodiscard]] std::ostream& said() { return said_; }
  /// False where nobody reads any more.
  bool pass(const session::Session& session, const core::Pass& pass, const std::string& text);
  void ended(int code, const core::Error* error);

 private:
  int_type overflow(int_type sign) override;
  void write(const nlohmann::ordered_json& event);
  std::ostream& out_;
  std::ostream said_;
  std::string line_;
};

}  // namespace cli
