#include "bench/process_command.h"

#include <signal.h>
#include <sys/prctl.h>
#include <unistd.h>

#include <QDateTime>

#include "bench/processor_time.h"

namespace bench {
namespace {

constexpr int kPatienceMs = 3000;

}  // namespace

ProcessCommand::ProcessCommand(const CommandOrder& order, const BenchConnection& connection,
                               const QString& own_folder) {
  connect(&process_, &QProcess::readyReadStandardOutput, this, &ProcessCommand::collect);
  connect(&process_, &QProcess::readyReadStandardError, this, &ProcessCommand::collect);
  connect(&process_, &QProcess::started, this, [this] {
    tree_.open(static_cast<pid_t>(process_.processId()));
    for (OutputPipe* pipe : {out_pipe_.get(), error_pipe_.get()})
      if (pipe != nullptr) pipe->closeWriteEnd();
    if (is_stopped_ || is_timed_out_ || is_asked_to_end_)
      killGroup();  // asked for while the process was still coming up
  });
  connect(&process_, &QProcess::finished, this, [this](int code, QProcess::ExitStatus status) {
    outcome_.exit_code = code;
    outcome_.signal_number = status == QProcess::CrashExit ? code : 0;
    outlive(status == QProcess::CrashExit ? Ending::Crashed : Ending::Exited);
  });
  connect(&process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
    if (error != QProcess::FailedToStart) return;  // every other error also ends in `finished`
    outcome_.what = process_.errorString().toStdString();
    conclude(Ending::NotStarted);
  });
  limit_.setSingleShot(true);
  connect(&limit_, &QTimer::timeout, this, [this] {
    is_timed_out_ = true;
    killGroup();
  });

  outcome_.started_ms = QDateTime::currentMSecsSinceEpoch();
  clock_.start();
  const auto program = connection.findProgram(order.exact.command.front(), order.folder);
  // Queued, so that nobody misses `finished`: it never comes out of the constructor.
  if (program) {
    QMetaObject::invokeMethod(
        this,
        [this, order, path = QString::fromStdString(*program), own_folder] { startProcess(order, path, own_folder); },
        Qt::QueuedConnection);
  } else {
    outcome_.what = program.error().what;
    QMetaObject::invokeMethod(
        this, [this] { conclude(Ending::NotStarted); }, Qt::QueuedConnection);
  }
}

ProcessCommand::~ProcessCommand() {
  process_.disconnect(this);
  if (!is_concluded_) killGroup();
  process_.waitForFinished(2000);
  if (!is_concluded_) tree_.endMembers();
}

void ProcessCommand::startProcess(const CommandOrder& order, const QString& program, const QString& own_folder) {
  if (is_stopped_) return conclude(Ending::Stopped);
  QStringList words{program};
  for (std::size_t i = 1; i < order.exact.command.size(); ++i) words << QString::fromStdString(order.exact.command[i]);
  QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
  const QString path = QStringLiteral("PATH");
  environment.insert(path, own_folder + QLatin1Char(':') + environment.value(path));
  for (const auto& [name, value] : order.exact.environment)
    environment.insert(QString::fromStdString(name), QString::fromStdString(value));
  if (order.exact.without.isConfined()) {
    auto confined = Confined::make(order, words, environment);
    if (!confined) {
      outcome_.what = confined.error().sentence();
      return conclude(Ending::NotStarted);
    }
    confined_ = *std::move(confined);
    words = confined_->words();
  }
  process_.setProcessEnvironment(environment);
  process_.setWorkingDirectory(QString::fromStdString(order.folder));
  process_.setStandardInputFile(QProcess::nullDevice());
  if (order.waits_for_all) {
    out_pipe_ = std::make_unique<OutputPipe>([this](const char* bytes, std::size_t size) {
      output_.append({bytes, size});
    });
    error_pipe_ = std::make_unique<OutputPipe>([this](const char* bytes, std::size_t size) {
      error_output_.append({bytes, size});
    });
  }
  const int out = out_pipe_ ? out_pipe_->writeEnd() : -1;
  const int error = error_pipe_ ? error_pipe_->writeEnd() : -1;
  process_.setChildProcessModifier([out, error, gives_up = order.exact.without.any()] {
    if (gives_up) giveUpNewPrivileges();
    if (out >= 0) ::dup2(out, STDOUT_FILENO);
    if (error >= 0) ::dup2(error, STDERR_FILENO);
    ::setpgid(0, 0);
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    sigset_t none;  // what we take as a readable descriptor, a workload takes as it is used to
    sigemptyset(&none);
    ::sigprocmask(SIG_SETMASK, &none, nullptr);
  });
  adoptOrphans();
  limit_.start(static_cast<int>(std::min(order.time_limit_s * 1000.0, 2e9)));
  patience_.setSingleShot(true);
  connect(&patience_, &QTimer::timeout, this, &ProcessCommand::killGroup);
  children_s_ = childrensProcessorSeconds();
  outcome_.started_ms = QDateTime::currentMSecsSinceEpoch();
  clock_.start();
  process_.start(words.front(), words.mid(1));
}

void ProcessCommand::stop() {
  is_stopped_ = true;
  killGroup();
}

void ProcessCommand::askToEnd() {
  is_asked_to_end_ = true;
  if (tree_.leader() <= 0 || is_concluded_) return;
  ::kill(-tree_.leader(), SIGTERM);
  if (outliving_.isActive())
    for (const pid_t process : tree_.members()) ::kill(process, SIGTERM);
  patience_.start(kPatienceMs);
}

std::vector<pid_t> ProcessCommand::processes() const {
  return tree_.leader() <= 0 || is_concluded_ ? std::vector<pid_t>() : tree_.lately();
}

// Its launcher has left: the command is over when the last that it started is.
void ProcessCommand::outlive(Ending ending) {
  if (!out_pipe_ || is_stopped_ || is_timed_out_ || is_asked_to_end_ || !tree_.hasMembers()) return conclude(ending);
  constexpr int kLookMs = 100;
  connect(&outliving_, &QTimer::timeout, this, [this, ending] {
    if (!tree_.hasMembers()) conclude(ending);
  });
  outliving_.start(kLookMs);
}

void ProcessCommand::collect() {
  for (OutputPipe* pipe : {out_pipe_.get(), error_pipe_.get()})
    if (pipe != nullptr) pipe->drain();
  output_.append(process_.readAllStandardOutput().toStdString());
  error_output_.append(process_.readAllStandardError().toStdString());
}

// What the command left running would disturb the next pass, also where it has left its group.
void ProcessCommand::endLeftovers() {
  killGroup();
  tree_.endMembers();
  tree_.close();
}

void ProcessCommand::killGroup() {
  if (tree_.leader() > 0 && !is_concluded_) ::kill(-tree_.leader(), SIGKILL);
  if (outliving_.isActive()) tree_.endMembers();
}

void ProcessCommand::conclude(Ending ending) {
  if (is_concluded_) return;
  collect();
  endLeftovers();
  is_concluded_ = true;
  outliving_.stop();
  limit_.stop();
  patience_.stop();
  outcome_.ending = is_stopped_        ? Ending::Stopped
                    : is_timed_out_    ? Ending::TimedOut
                    : is_asked_to_end_ ? Ending::Ended
                                       : ending;
  outcome_.processor_s = childrensProcessorSeconds() - children_s_;
  outcome_.duration_s = static_cast<double>(clock_.nsecsElapsed()) / 1e9;
  outcome_.output = output_.text();
  outcome_.error_output = error_output_.text();
  Q_EMIT finished(outcome_);
}

}  // namespace bench
