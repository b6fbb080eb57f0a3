#include "model/apart/kernel_process.h"

#include <sys/wait.h>
#include <unistd.h>

#include <Standard_Failure.hxx>
#include <atomic>
#include <cerrno>
#include <chrono>
#include <mutex>
#include <thread>

#include "model/model_impl.h"

namespace lostline::model {
namespace {

constexpr const char* kProgram = "lostline-kernel";

/// This process serves requests: what it is asked for it does itself.
bool serving = false;
bool careful = false;
bool copy_of_serving = false;

Remembered& remembered() {
  static Remembered models;
  return models;
}

/// A process with what it remembers.
struct Kept {
  std::unique_ptr<ApartProcess> process;
  Remembered known;
};

ApartOptions& options_in_force() {
  static ApartOptions options = [] {
    ApartOptions found;
    found.program = find_apart_program(kProgram);
    return found;
  }();
  return options;
}

/// Those that nobody asks anything just now.
class Idle {
 public:
  static Idle& all() {
    static Idle idle;
    return idle;
  }
  /// The one that remembers a model, or any, or a new one.
  Kept take(const std::vector<Model>& wanted) {
    const std::scoped_lock lock(mutex_);
    for (auto it = kept_.begin(); it != kept_.end(); ++it) {
      const bool last = it + 1 == kept_.end();
      if (!last && (wanted.empty() || it->known.find(wanted.back().impl().serial.value) == nullptr))
        continue;
      Kept one = std::move(*it);
      kept_.erase(it);
      return one;
    }
    return started();
  }
  void give_back(Kept one) {
    constexpr std::size_t kMost = 2;  // the Route's and a trial's
    const std::scoped_lock lock(mutex_);
    if (one.process->alive() && kept_.size() < kMost) kept_.push_back(std::move(one));
  }
  void end_all() {
    const std::scoped_lock lock(mutex_);
    kept_.clear();
  }
  void start() {
    const std::scoped_lock lock(mutex_);
    if (kept_.empty()) kept_.push_back(started());
  }

 private:
  static Kept started() { return {std::make_unique<ApartProcess>(options_in_force()), {}}; }
  std::mutex mutex_;
  std::vector<Kept> kept_;
};

struct RequestHead {
  std::uint64_t serial = 0;
  bool careful = false;
};

/// The models that a request names, whole where the process does not remember them, then the rest.
std::string whole_request(RequestHead head, const std::vector<Model>& models,
                          const std::string& values, Remembered& known) {
  Bytes bytes;
  bytes(head.serial);
  bytes(head.careful);
  std::uint64_t count = models.size();
  bytes(count);
  for (const Model& model : models) {
    std::uint64_t serial = model.impl().serial.value;
    bool whole = known.find(serial) == nullptr;
    bytes(serial);
    bytes(whole);
    if (whole) pack(bytes, model);
    known.use(serial);
  }
  if (head.serial != 0) known.use(head.serial);
  return bytes.take() + values;
}

Error not_computed(const std::string& what, const std::string& why) {
  return {ErrorCode::Failed,
          what + " could not be computed: " + why + ". Change its values, or what it is made on."};
}

}  // namespace

void start_kernel_process() {
  if (has_kernel_process()) Idle::all().start();
}

void use_kernel_program(const std::filesystem::path& path, const KernelOptions& options) {
  Idle::all().end_all();
  options_in_force().program = path;
  options_in_force().silent = options.silent;
}

bool has_kernel_process() { return !serving && !options_in_force().program.empty(); }

Status ask_kernel(const KernelRequest& request, const std::function<void(Packing&)>& fill,
                  const std::function<void(Packing&)>& read, const Task& task) {
  using Outcome = ApartAnswer::Outcome;
  Packing packing;
  fill(packing);
  const std::string values = packing.bytes().take();
  for (const bool again : {false, true}) {
    Kept one = Idle::all().take(packing.models());
    const std::string bytes =
        whole_request({request.serial, again}, packing.models(), values, one.known);
    ApartAnswer answer = one.process->ask(request.work, bytes, task);
    // What a work that threw remembers is not known.
    if (answer.outcome != Outcome::Refused) Idle::all().give_back(std::move(one));
    switch (answer.outcome) {
      case Outcome::Answered: {
        Bytes said(answer.bytes);
        bool good = false;
        said(good);
        if (!good) {
          Error error;
          said(error.code);
          said(error.message);
          return error;
        }
        try {
          Packing values(said, {});
          read(values);
        } catch (const Standard_Failure&) {
          return not_computed(request.what, "what the geometry kernel made cannot be read");
        } catch (const std::exception& exception) {
          return not_computed(request.what, exception.what());
        }
        return Done{};
      }
      case Outcome::Refused:
        return not_computed(request.what, answer.bytes);
      case Outcome::Stopped:
        return cancelled();
      case Outcome::Hung:
        return not_computed(request.what, "the geometry kernel does not come to an end");
      case Outcome::Unavailable:
        return not_computed(request.what, std::string("its program ") + kProgram +
                                              " cannot be started; install Lost Line anew");
      case Outcome::Died:
        if (!again && request.again && !task.stopped()) continue;
        return not_computed(request.what, "the geometry kernel went down on this shape");
    }
  }
  return Done{};
}

Result<Model> ask_for_model(const KernelRequest& asked, const std::function<void(Packing&)>& fill,
                            const Task& task) {
  KernelRequest request = asked;
  request.serial = next_serial();
  Model made;
  const Status status = ask_kernel(
      request, fill, [&](Packing& answer) { made = unpack(answer.bytes(), request.serial); }, task);
  if (!status) return status.error();
  return made;
}

Asked open_request(std::string_view request) {
  serving = true;
  Bytes bytes(request);
  RequestHead head;
  bytes(head.serial);
  bytes(head.careful);
  careful = head.careful;
  std::uint64_t count = 0;
  bytes(count);
  std::vector<Model> models;
  for (; count > 0; --count) {
    std::uint64_t serial = 0;
    bool whole = false;
    bytes(serial);
    bytes(whole);
    const Remembered::Entry* known = remembered().find(serial);
    if (!whole && known == nullptr) throw std::runtime_error("a model is not known here");
    models.push_back(whole ? unpack(bytes, serial) : known->model);
    remembered().use(serial, models.back());
  }
  return {Packing(bytes, std::move(models)), head.serial};
}

std::string answer_with(const Error& given) {
  Bytes bytes;
  bool good = false;
  Error error = given;
  bytes(good);
  bytes(error.code);
  bytes(error.message);
  return bytes.take();
}

std::string answer_with(const std::function<void(Packing&)>& fill) {
  Packing answer;
  bool good = true;
  answer.bytes()(good);
  fill(answer);
  return answer.bytes().take();
}

void remember_answer(std::uint64_t serial, const Model& made) {
  if (serial != 0) remembered().use(serial, made);
}

std::string answer_with(const Result<Model>& made, std::uint64_t serial) {
  remember_answer(serial, made ? *made : Model());
  if (!made) return answer_with(made.error());
  return answer_with([&](Packing& answer) { pack(answer.bytes(), *made); });
}

bool works_out(const std::function<bool()>& trial, const Task& task) {
  const auto good = [&] {
    try {
      return trial();
    } catch (const Standard_Failure&) {
      return false;
    }
  };
  if (!serving) return good();
  const pid_t copy = ::fork();
  if (copy < 0) return false;
  if (copy == 0) {
    copy_of_serving = true;
    constexpr unsigned kMost = 60;  // s for one trial; a size that takes longer does not work
    ::alarm(kMost);
    ::_exit(good() ? 0 : 1);
  }
  int status = 0;
  while (true) {
    const pid_t ended = ::waitpid(copy, &status, WNOHANG);
    if (ended == copy) return WIFEXITED(status) && WEXITSTATUS(status) == 0;
    if (ended < 0 && errno != EINTR) return false;
    if (task.stopped()) ::kill(copy, SIGKILL);
    std::this_thread::sleep_for(std::chrono::milliseconds(1));
  }
}

bool with_care() { return careful; }
bool in_copy() { return copy_of_serving; }

std::uint64_t next_serial() {
  static std::atomic<std::uint64_t> last{0};
  return ++last;
}

}  // namespace lostline::model
