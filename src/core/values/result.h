#pragma once

#include <cassert>
#include <string>
#include <utility>
#include <variant>

namespace core {

/// What went wrong, as a stable kind that code and scripts may test. Kinds are written into JSON by
/// `errorKindName` and are never renamed.
enum class ErrorKind {
  Missing,        ///< something that is needed is not there (a field, a file, a program)
  Malformed,      ///< it is there but cannot be read as what it should be
  OutOfRange,     ///< it can be read but its value is not allowed
  TooFew,         ///< not enough values for what is asked
  NewerFile,      ///< a study file of a later version of the program
  ForeignFile,    ///< a file that is no study file
  DamagedFile,    ///< a study file that is truncated or corrupt
  DiskFull,       ///< no space, or no permission to grow the file
  Io,             ///< reading or writing failed for another reason
  Busy,           ///< somebody else holds it
  NotApproved,    ///< a command that no person on this machine has approved
  NotAtLevel,     ///< the bench is not at the level that was asked
  Denied,         ///< it needs more rights than this person has
  CommandFailed,  ///< a program crashed, was stopped at its time limit, or ended with a non-zero code
  NotAllowed,     ///< the state of the study forbids it
  Ambiguous,      ///< it can be read in two ways, and nothing tells which is meant
  Away            ///< another computer that does not answer
};

/// The stable name of a kind, e.g. "missing".
const char* errorKindName(ErrorKind kind);

/// One failure, in parts: what happened, where (file, line, field), and what a person can do about it.
struct Error {
  ErrorKind kind = ErrorKind::Malformed;
  std::string what;
  std::string where;
  std::string remedy;

  /// "WHERE: WHAT. REMEDY." The one wording that window, command line and log print.
  [[nodiscard]] std::string sentence() const;
};

/// A value, or the error that stood in its way.
template <class T>
class [[nodiscard]] Result {
 public:
  Result(T value) : content_(std::move(value)) {}      // NOLINT(google-explicit-constructor)
  Result(Error error) : content_(std::move(error)) {}  // NOLINT(google-explicit-constructor)

  [[nodiscard]] bool ok() const { return std::holds_alternative<T>(content_); }
  explicit operator bool() const { return ok(); }

  /// The value; only when ok().
  const T& operator*() const& {
    assert(ok());
    return *std::get_if<T>(&content_);
  }
  T& operator*() & {
    assert(ok());
    return *std::get_if<T>(&content_);
  }
  T&& operator*() && {
    assert(ok());
    return std::move(*std::get_if<T>(&content_));
  }
  const T* operator->() const {
    assert(ok());
    return std::get_if<T>(&content_);
  }
  T* operator->() {
    assert(ok());
    return std::get_if<T>(&content_);
  }

  /// The error; only when not ok().
  [[nodiscard]] const Error& error() const {
    assert(!ok());
    return *std::get_if<Error>(&content_);
  }

 private:
  std::variant<T, Error> content_;
};

/// For functions that only succeed or fail.
struct Done {};
using Status = Result<Done>;

}  // namespace core
