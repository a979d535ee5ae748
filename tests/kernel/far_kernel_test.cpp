// Two benches in a rack, each a virtual machine with a real kernel and a real sshd: their sheets are run from here, the
// "firmware setting" is flipped from outside, and each flip is a restart. IRON_LEVER_RESTARTS=6 in the environment
// makes it six restarts each; two otherwise.
#include <gtest/gtest.h>

#include <QDeadlineTimer>
#include <QFile>
#include <cstdlib>
#include <memory>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "kernel/virtual_machine.h"
#include "support/programs.h"

namespace {

using kernel::RunningMachine;
using nlohmann::json;

constexpr qint64 kMostMs = 25 * 60'000;

int restartsAsked() {
  const char* asked = std::getenv("IRON_LEVER_RESTARTS");
  return asked == nullptr ? 2 : std::max(2, std::atoi(asked));
}

class FarKernel : public support::ProgramsTest {
 protected:
  void SetUp() override {
    if (const std::string why = kernel::Machine::whyNot(); !why.empty()) GTEST_SKIP() << why;
    if (!QFile::exists(QStringLiteral("/usr/sbin/sshd"))) GTEST_SKIP() << "no sshd is installed";
    machine_ = std::make_unique<kernel::Machine>(folder_.path());
    for (const char* key : {"host_key", "user_key"})
      ASSERT_EQ(kernel::runOnHost(QStringLiteral("ssh-keygen"),
                                  {QStringLiteral("-q"), QStringLiteral("-t"), QStringLiteral("ed25519"),
                                   QStringLiteral("-N"), QString(), QStringLiteral("-f"), QLatin1String(key)},
                                  folder_.path()),
                0);
  }
  /// `flip`: what brings a level about, a command that restarts the machine itself or asks another to do it.
  [[nodiscard]] kernel::Machine::Job job(const std::string& flip) const {
    return {
        "ifconfig lo up; ifconfig eth0 10.0.2.15 up\n"
        "mkdir -p /run/sshd /disk/data /disk/state\n"
        "cat > /disk/flip <<'FLIP'\n" +
            flip +
            "\nFLIP\n"
            "while sleep 1; do [ -f /disk/asked ] && sleep 2 && echo \"SET $(cat /disk/asked)\" > /dev/console && "
            "rm /disk/asked && sync && reboot -f; done &\n"
            "/bin/sshd -D -e -f /etc/sshd_config\n",
        machine_->makeDisk(),
        {{"etc/passwd", "root:x:0:0:root:/root:/bin/sh\nsshd:x:74:74::/run/sshd:/bin/false\n"},
         {"etc/group", "root:x:0:\nsshd:x:74:\n"},
         {"etc/host_key", support::contents(folder_ / "host_key")},
         {"etc/keys", support::contents(folder_ / "user_key.pub")},
         {"etc/sshd_config",
          "HostKey /etc/host_key\nAuthorizedKeysFile /etc/keys\nStrictModes no\nUsePAM no\nPidFile none\n"
          "PasswordAuthentication no\nSetEnv \"PATH=/bin\" \"HOME=/root\" \"XDG_DATA_HOME=/disk/data\" "
          "\"XDG_STATE_HOME=/disk/state\" \"QT_LOGGING_RULES=*=false\"\n"}},
        {"/usr/sbin/sshd"}};
  }
  void describe(const std::string& name, int port) const {
    std::string host = support::contents(folder_ / "host_key.pub");
    host = host.substr(0, host.find(' ', host.find(' ') + 1));
    folder_.write(name + ".known", fmt::format("[127.0.0.1]:{} {}\n", port, host));
    folder_.write(name + ".config",
                  fmt::format("Host {0}\n  HostName 127.0.0.1\n  Port {1}\n  User root\n  IdentityFile {2}\n"
                              "  IdentitiesOnly yes\n  UserKnownHostsFile {3}\n  StrictHostKeyChecking yes\n",
                              name, port, folder_ / "user_key", folder_ / (name + ".known")));
    const auto level = [](const char* version) {
      return json{{"name", version}, {"set_command", {"/bin/busybox", "sh", "/disk/flip", version}}};
    };
    const bool is_rounds = restartsAsked() >= 6;
    const json design{
        {"bench", name},
        {"reach", "ssh:" + name},
        {"ssh_config", folder_ / (name + ".config")},
        {"variable", "firmware version"},
        {"kind", "firmware_version"},
        {"levels", {level("D2-1.14"), level("D2-1.15")}},
        {"cases",
         {{{"workload", "Star survey"},
           {"command", {"iron-lever-probe", "compute", "--threads", "1", "--million-steps", "20"}},
           {"result", "json_field"},
           {"field", "seconds.median"},
           {"metric", {{"name", "time"}, {"unit", "s"}, {"direction", "lower"}}}}}},
        {"plan",
         is_rounds
             ? json{{"order", "rounds"}, {"rounds", restartsAsked() / 2}, {"passes_per_visit", 1}, {"warm_ups", 0}}
             : json{{"order", "blocked"}, {"passes_per_level", 1}, {"warm_ups", 0}}}};
    folder_.write(name + ".json", design.dump());
    const support::Outcome made = cli({QStringLiteral("new"), QString::fromStdString(name), QStringLiteral("--design"),
                                       QString::fromStdString(name + ".json")});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  std::unique_ptr<kernel::Machine> machine_;
};

TEST_F(FarKernel, StudiesOfTwoBenchesGoThroughTheirRestarts) {
  const std::vector<std::string> names{"dome-node-3", "dome-node-4"};
  // The second is back before the machine goes down, as a service manager's restart is.
  const std::vector<std::string> flips{"echo \"SET $1\" > /dev/console; sync; reboot -f",
                                       "echo $1 > /disk/asked; sync"};
  std::vector<std::unique_ptr<RunningMachine>> machines;
  std::vector<std::unique_ptr<QProcess>> desks;
  for (std::size_t i = 0; i < names.size(); ++i) {
    const int port = 20000 + static_cast<int>((::getpid() * 2 + static_cast<int>(i)) % 20000);
    kernel::Firmware firmware;
    firmware.processors = "1";
    machines.push_back(std::make_unique<RunningMachine>(*machine_, firmware, job(flips[i]), port));
    describe(names[i], port);
  }
  // A person switches on and waits; ssh answers when the machine is up.
  const QDeadlineTimer deadline(kMostMs);
  const auto turn = [&] {
    for (const auto& machine : machines) machine->look();
    return !deadline.hasExpired();
  };
  for (std::size_t i = 0; i < names.size(); ++i) {
    while (machines[i]->said().find("Server listening on") == std::string::npos && turn()) {
    }
    ASSERT_FALSE(deadline.hasExpired()) << machines[i]->said();
    desks.push_back(std::make_unique<QProcess>());
    start(*desks[i], QStringLiteral("iron-lever-cli"),
          {QStringLiteral("run"), QString::fromStdString(names[i]), QStringLiteral("--approve"),
           QStringLiteral("--quiet")});
  }
  for (std::size_t i = 0; i < names.size(); ++i)
    while (desks[i]->state() != QProcess::NotRunning && turn()) (void)desks[i]->waitForFinished(1);
  for (std::size_t i = 0; i < names.size(); ++i) {
    const std::string told = desks[i]->readAllStandardError().toStdString() + machines[i]->said();
    ASSERT_EQ(desks[i]->state(), QProcess::NotRunning) << told;
    EXPECT_EQ(desks[i]->exitCode(), 0) << told;
    EXPECT_EQ(machines[i]->restarts(), restartsAsked()) << "a flip before each visit";
    const auto call = [&](const char* command) {
      return cli({QLatin1String(command), QString::fromStdString(names[i]), QStringLiteral("--json")}).out;
    };
    const json findings = json::parse(call("findings"));
    EXPECT_TRUE(findings["plan_complete"]) << findings;
    EXPECT_NE(findings.dump().find("\"verdict\":\"moved as declared\""), std::string::npos) << findings;
    EXPECT_EQ(findings.dump().find("\"rank\":\"stop\""), std::string::npos) << findings;
    EXPECT_EQ(json::parse(call("passes"))["passes"].size(), static_cast<std::size_t>(restartsAsked())) << "each once";
  }
}

}  // namespace
