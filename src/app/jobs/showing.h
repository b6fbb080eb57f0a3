#pragma once

#include "jobs/session.h"

namespace lostline::app {

/// Whether items of a kind can be shown and hidden by themselves.
bool can_hide(Item::Kind kind);
/// How an item is shown now.
project::Visibility visibility_of(const Session& session, const Item& item);
project::Visibility visibility_of(const project::BodyLook& look);
/// Shows, hides or dims items, as one edit of the project; those that cannot be are left out.
void set_visibility(Session& session, const std::vector<Item>& items,
                    project::Visibility visibility);
/// Hides everything of the kinds among the items that is not one of them.
void show_only(Session& session, const std::vector<Item>& items);
/// Shows every scan, region and body again.
void show_all(Session& session);

}  // namespace lostline::app
