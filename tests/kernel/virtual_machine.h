// A virtual machine that boots Debian's kernel into our own programs and tells over its serial console what they said.
#pragma once

#include <gtest/gtest.h>

#include <QByteArray>
#include <QString>
#include <QStringList>
#include <string>
#include <vector>

#include "support/test_folder.h"

namespace kernel {

/// What the firmware of a machine says and holds, from outside.
struct Firmware {
  int memory_mts = 6000;
  int memory_mib = 1024;
  std::string processors = "4";             ///< as -smp takes it
  std::string processor_model = "Nehalem";  ///< one that shows its threads
  std::string board = "Corvane D2";
  std::string version = "D2-1.14";
  std::string slot = "x-speed=16,x-width=16";  ///< with a drive behind it
};

/// One start of the machine: what a shell script printed, and how it ended.
struct Boot {
  bool is_started = false;
  std::string printed;  ///< between our marks, without carriage returns
};

/// The kernel and an initramfs of our programs with their libraries; made once, in a folder of its own.
class Machine {
 public:
  /// Why no virtual machine can start here; empty where one can.
  [[nodiscard]] static std::string whyNot();
  explicit Machine(const std::string& folder);
  /// Boots, runs `script` in busybox's shell as root, and switches off. `disk`: an ext4 image that the script finds
  /// mounted at /disk; empty for a bare one.
  [[nodiscard]] Boot boot(const Firmware& firmware, const std::string& script, const std::string& disk = {}) const;
  /// A fresh ext4 image.
  [[nodiscard]] std::string makeDisk() const;

 private:
  std::string folder_;
};

/// Runs a host's program in a folder. Returns its exit code, -1 where it cannot be started or does not end.
[[nodiscard]] int runOnHost(const QString& program, const QStringList& arguments, const std::string& folder);

}  // namespace kernel
