// A virtual machine that boots Debian's kernel into our own programs and tells over its serial console what they said.
#pragma once

#include <gtest/gtest.h>

#include <QByteArray>
#include <QProcess>
#include <QString>
#include <QStringList>
#include <map>
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
  /// What starts it: as boot, and `files` of the host are there at paths of its own.
  struct Job {
    std::string script;
    std::string disk = {};
    std::map<std::string, std::string> files = {};  ///< by path there, without the first slash: their contents
    std::vector<std::string> programs = {};         ///< of the host's, with their libraries
  };
  [[nodiscard]] std::string initrdFor(const Job& job) const;
  [[nodiscard]] static QStringList arguments(const Firmware& firmware, const std::string& initrd,
                                             const std::string& disk);

 private:
  std::string folder_;
};

/// A machine that stays on, and is reached at a port of this one, which stands for its ssh. When it has asked for a
/// level on its console ("SET D2-1.15") and restarts, a hand from outside changes its firmware before it starts again.
class RunningMachine {
 public:
  RunningMachine(const Machine& machine, Firmware firmware, const Machine::Job& job, int port);
  ~RunningMachine();
  RunningMachine(const RunningMachine&) = delete;
  RunningMachine& operator=(const RunningMachine&) = delete;
  /// To be called now and then: takes what it said, and switches it on again where it has gone off to restart.
  void look();
  [[nodiscard]] int restarts() const { return restarts_; }
  [[nodiscard]] std::string said() const { return said_.toStdString(); }

 private:
  void switchOn();
  Firmware firmware_;
  std::string initrd_;
  std::string disk_;
  int port_;
  QProcess process_;
  QByteArray said_;         ///< ever
  qsizetype began_at_ = 0;  ///< in it, of this start
  int restarts_ = 0;
};

/// Runs a host's program in a folder. Returns its exit code, -1 where it cannot be started or does not end.
[[nodiscard]] int runOnHost(const QString& program, const QStringList& arguments, const std::string& folder);

}  // namespace kernel
