#pragma once

#include <Standard_Failure.hxx>
#include <optional>

#include "base/fault.h"

namespace lostline::model {

/// Runs a call of the geometry kernel. Where the kernel follows a null pointer (its fillets do on
/// some shapes) that comes out as its own exception, Standard_Failure, like any other failure.
template <class Call>
auto in_kernel(const Call& call) {
  std::optional<decltype(call())> result;
  if (!survives_null_access([&] { result.emplace(call()); }))
    throw Standard_Failure("the geometry kernel lost its way on this shape");
  return *std::move(result);
}

}  // namespace lostline::model
