#pragma once

#include <string>
#include <vector>

#include "core/values/result.h"
#include "session/user/user_files.h"

namespace session {

/// Something about two benches that only a person knows.
struct BenchQuestion {
  enum class About {
    Name,  ///< is it the same bench under another name?
    Part   ///< is it the same card, or drive, carried over?
  };
  About about = About::Name;
  std::string then;   ///< the bench that was there first
  std::string now;    ///< the other one
  std::string part;   ///< what may have been carried over, by its name
  std::string until;  ///< the day on which it was seen last at the first one
  std::string text;   ///< what is asked, one sentence

  /// By which it is known once it was answered.
  [[nodiscard]] std::string key() const { return then + '\n' + now + '\n' + part; }
};

/// What is to be asked: benches that read alike one after the other, and parts that left one and came up at another.
/// Facts tell models only, never which piece it is: nothing is taken for granted. Errors of the register
[[nodiscard]] core::Result<std::vector<BenchQuestion>> benchQuestions(const UserFiles& files);

/// A person's answer. Yes to a name moves everything that is known of the bench to the new name; yes to a part writes
/// it into the papers of both. Errors of the register
core::Status answer(const UserFiles& files, const BenchQuestion& question, bool is_the_same);

}  // namespace session
