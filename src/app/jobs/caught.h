#pragma once

#include <exception>

#include "base/result.h"

namespace lostline::app {

/// Runs work on a worker's side: an exception, which would be lost there with its future and leave
/// its queue waiting, becomes an Error. A bug then shows as a message, and the window lives on.
/// @tparam R  a Result that `work` returns.
template <class R, class Work>
R caught(Work&& work) {
  const auto failed = [](const char* what) {
    return Error{ErrorCode::Failed, std::string("This did not work out (") + what +
                                        "). Nothing was changed; save, and try another way."};
  };
  try {
    return work();
  } catch (const std::bad_alloc&) {
    return Error{ErrorCode::Failed, "The memory does not suffice for this. Nothing was changed."};
  } catch (const std::exception& exception) {
    return failed(exception.what());
  } catch (...) {
    return failed("for an unknown reason");
  }
}

}  // namespace lostline::app
