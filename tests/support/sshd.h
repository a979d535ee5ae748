#pragma once

#include <arpa/inet.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/socket.h>
#include <unistd.h>

#include <QCoreApplication>
#include <QProcess>
#include <QProcessEnvironment>
#include <QThread>
#include <filesystem>
#include <fstream>
#include <set>
#include <string>

#include "support/test_folder.h"

namespace support {

/// A real sshd of this user's on loopback, with keys of its own: another bench, whose user's files lie in a folder of
/// its own. It is known under one name of a configuration that is handed to ssh.
class Sshd {
 public:
  explicit Sshd(const std::string& folder) : folder_(folder) { std::filesystem::create_directories(folder_); }
  ~Sshd() {
    daemon_.kill();
    daemon_.waitForFinished();
  }
  Sshd(const Sshd&) = delete;
  Sshd& operator=(const Sshd&) = delete;

  [[nodiscard]] static QString program() { return QStringLiteral("/usr/sbin/sshd"); }
  [[nodiscard]] std::string config() const { return folder_ + "/ssh_config"; }
  [[nodiscard]] std::string files() const { return folder_ + "/data/iron-lever"; }
  /// Whatever is started there has a clock that is so far ahead.
  int clock_ahead_s = 0;
  static constexpr const char* kName = "dome-node-3";

  /// `path`: in place of the folder of our programs.
  void start(const std::string& path = QCoreApplication::applicationDirPath().toStdString()) {
    std::error_code code;
    std::filesystem::create_directories("/run/sshd", code);  // root's own needs it; anybody else's does not
    if (!std::filesystem::exists(folder_ + "/host_key")) makeKey("host_key");
    if (!std::filesystem::exists(folder_ + "/user_key")) makeKey("user_key");
    if (port_ == 0) port_ = freePort();
    write("sshd_config", "Port " + std::to_string(port_) + "\nListenAddress 127.0.0.1\nHostKey " + folder_ +
                             "/host_key\nAuthorizedKeysFile " + folder_ +
                             "/user_key.pub\nStrictModes no\nUsePAM no\nPidFile none\nPasswordAuthentication no\n"
                             "KbdInteractiveAuthentication no\nMaxStartups 100\nSetEnv \"PATH=" +
                             path + ":/usr/bin:/bin\" \"XDG_DATA_HOME=" + folder_ + "/data\" \"XDG_STATE_HOME=" +
                             folder_ + "/state\" \"IRON_LEVER_PERSON=M. Osei\" \"LSAN_OPTIONS=" +
                             qEnvironmentVariable("LSAN_OPTIONS").toStdString() + "\"" + clock() + "\n");
    write("ssh_config", std::string("Host ") + kName + "\n  HostName 127.0.0.1\n  Port " + std::to_string(port_) +
                            "\n  IdentityFile " + folder_ + "/user_key\n  IdentitiesOnly yes\n  UserKnownHostsFile " +
                            folder_ + "/known_hosts\n  StrictHostKeyChecking yes\n");
    if (!std::filesystem::exists(folder_ + "/known_hosts")) learnKey();
    daemon_.setStandardErrorFile(QString::fromStdString(folder_ + "/sshd.log"));
    daemon_.start(program(), {QStringLiteral("-D"), QStringLiteral("-e"), QStringLiteral("-f"),
                              QString::fromStdString(folder_ + "/sshd_config")});
    ASSERT_TRUE(daemon_.waitForStarted());
    for (int i = 0; i < 200 && !answers(); ++i) QThread::msleep(50);
    ASSERT_TRUE(answers()) << std::ifstream(folder_ + "/sshd.log").rdbuf();
  }
  /// Stands in its section of ssh's configuration from now on.
  void addToConfig(const std::string& line) const { std::ofstream(config(), std::ios::app) << "  " << line << "\n"; }
  /// As if its cable was pulled: nothing answers, and what is connected ends.
  void stop() {
    daemon_.kill();
    daemon_.waitForFinished();
    for (const pid_t one : processes("sshd")) ::kill(one, SIGKILL);
  }
  void makeKey(const char* name) const {
    std::filesystem::remove(folder_ + "/" + name);
    QProcess maker;
    maker.start(QStringLiteral("ssh-keygen"),
                {QStringLiteral("-q"), QStringLiteral("-t"), QStringLiteral("ed25519"), QStringLiteral("-N"), QString(),
                 QStringLiteral("-f"), QString::fromStdString(folder_ + "/" + name)});
    ASSERT_TRUE(maker.waitForFinished()) << "ssh-keygen";
  }
  void learnKey() const {
    std::ifstream key(folder_ + "/host_key.pub");
    std::string kind;
    std::string digits;
    key >> kind >> digits;
    write("known_hosts", "[127.0.0.1]:" + std::to_string(port_) + " " + kind + " " + digits + "\n");
  }

  /// Processes with that word in their command that belong to this bench, or to the desk that reaches it.
  [[nodiscard]] std::set<pid_t> processes(const std::string& word) const {
    std::set<pid_t> found;
    std::error_code code;
    for (const auto& entry : std::filesystem::directory_iterator("/proc", code)) {
      const std::string name = entry.path().filename();
      if (name.find_first_not_of("0123456789") != std::string::npos) continue;
      const std::string command = contentsOf(entry.path() / "cmdline");
      if (command.find(word) == std::string::npos) continue;
      if (command.find(folder_) != std::string::npos ||
          contentsOf(entry.path() / "environ").find(folder_) != std::string::npos)
        found.insert(static_cast<pid_t>(std::stol(name)));
    }
    return found;
  }

 private:
  [[nodiscard]] std::string clock() const {
    if (clock_ahead_s == 0) return {};
    return " \"LD_PRELOAD=" + QCoreApplication::applicationDirPath().toStdString() +
           "/libunruly_machine.so\" \"IRON_LEVER_DRILL_AHEAD=" + std::to_string(clock_ahead_s) + "\"";
  }
  static std::string contentsOf(const std::filesystem::path& path) {
    std::ifstream file(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(file), {}};
  }
  static sockaddr_in loopback(int port) {
    sockaddr_in address{};
    address.sin_family = AF_INET;
    address.sin_port = htons(static_cast<std::uint16_t>(port));
    address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    return address;
  }
  static int freePort() {
    const int socket = ::socket(AF_INET, SOCK_STREAM, 0);
    sockaddr_in address = loopback(0);
    socklen_t size = sizeof address;
    ::bind(socket, reinterpret_cast<sockaddr*>(&address), size);
    ::getsockname(socket, reinterpret_cast<sockaddr*>(&address), &size);
    ::close(socket);
    return ntohs(address.sin_port);
  }
  [[nodiscard]] bool answers() const {
    const int socket = ::socket(AF_INET, SOCK_STREAM, 0);
    const sockaddr_in address = loopback(port_);
    const bool is_there = ::connect(socket, reinterpret_cast<const sockaddr*>(&address), sizeof address) == 0;
    ::close(socket);
    return is_there;
  }
  void write(const char* name, const std::string& text) const { std::ofstream(folder_ + "/" + name) << text; }

  std::string folder_;
  int port_ = 0;
  QProcess daemon_;
};

}  // namespace support
