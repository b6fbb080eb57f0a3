#pragma once

#include <functional>

#include "base/apart.h"
#include "model/apart/packing.h"

// The geometry kernel in a process of its own, as its operations follow bad pointers on some shapes
// and turn for ever on others: then that process goes, and what was asked for is told as failed.

namespace lostline::model {

/// What the kernel's processes can be asked for; their program serves these.
const std::vector<ApartWork>& kernel_works();

/// Starts a process so that the first request finds it ready. Does nothing where one is.
void start_kernel_process();

struct KernelOptions {
  double silent = ApartOptions().silent;  ///< s, see ApartOptions
};
/// Another program than that beside the running one; those that are idle are ended. With none the
/// kernel works within this process.
void use_kernel_program(const std::filesystem::path& path, const KernelOptions& options = {});

/// Whether requests go to processes of their own: their program is there, and this is none of them.
bool has_kernel_process();

struct KernelRequest {
  const char* work;          ///< one of the works that the program serves
  std::string what;          ///< "The fillet round": begins messages
  std::uint64_t serial = 0;  ///< that a model in the answer will be known by; 0: it holds none
  bool again = true;         ///< ask once more, with care, where the kernel's process ended
};
/// Asks a process of the kernel. `fill` passes the request's values; `read` takes the answer's.
/// @errors Failed  the kernel went down or did not come back: the message says so;  Cancelled.
Status ask_kernel(const KernelRequest& request, const std::function<void(Packing&)>& fill,
                  const std::function<void(Packing&)>& read, const Task& task);

/// For a work: takes a request apart, does it, and packs what came out. The answer begins with the
/// error, if there is one.
struct Asked {
  Packing values;
  std::uint64_t serial;
};
Asked open_request(std::string_view request);
/// A model as an answer; the process remembers it.
std::string answer_with(const Result<Model>& made, std::uint64_t serial);
std::string answer_with(const Error& error);
/// A model that an answer holds among other things; the process remembers it.
void remember_answer(std::uint64_t serial, const Model& made);
/// Values as an answer, passed by `fill`.
std::string answer_with(const std::function<void(Packing&)>& fill);
/// The model of such an answer, where the request was for one.
Result<Model> ask_for_model(const KernelRequest& request, const std::function<void(Packing&)>& fill,
                            const Task& task);

/// Whether a trial comes to a good end. In a process of the kernel it is made in a copy of that
/// process, so that one that goes down is a trial that failed.
bool works_out(const std::function<bool()>& trial, const Task& task);
/// Whether even the first trial of a size is to be made that way: the kernel went down on it
/// before.
bool with_care();
/// Whether this is such a copy, in which the kernel has no threads.
bool in_copy();

/// A new number that no model of this process is known by.
std::uint64_t next_serial();

}  // namespace lostline::model
