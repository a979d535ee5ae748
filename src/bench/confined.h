#pragma once

#include <QProcessEnvironment>
#include <QStringList>
#include <QTemporaryDir>
#include <memory>

#include "bench/bench_connection.h"

namespace bench {

/// A command behind `bwrap` (bubblewrap), which gives it namespaces of its own without root.
class Confined {
 public:
  /// `command`: the program where it lies, and its arguments.
  /// Errors  Missing: bubblewrap is not installed; Io: no temporary folder can be made
  [[nodiscard]] static core::Result<Confined> make(const CommandOrder& order, const QStringList& command,
                                                   const QProcessEnvironment& environment);
  /// The words to start in the command's place.
  [[nodiscard]] const QStringList& words() const { return words_; }

 private:
  QStringList words_;
  std::shared_ptr<QTemporaryDir> temporary_;  ///< on the same disk as the shared one: no memory is taken instead
};

/// For the child, before it starts: neither it nor what it starts may gain privileges.
void giveUpNewPrivileges();

}  // namespace bench
