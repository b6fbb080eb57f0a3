#include "tools/reference_field.h"

#include "fit/surface_kind.h"

namespace lostline::app {

namespace {
constexpr int kPicked = -1;  // data of the row that holds what was picked
}

ReferenceField::ReferenceField(Wants wants, const QString& name) : wants_(wants) {
  setObjectName(name);
  setAccessibleName(name);
  setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  setToolTip(tr("Choose a datum, or click a face, region or fit on the Bench or in Evidence"));
  addItem(tr("click a face or fit"), kPicked);
  const QStringList datums =
      wants == Wants::Axis
          ? QStringList{tr("datum x axis"), tr("datum y axis"), tr("datum z axis")}
          : QStringList{tr("datum yz plane"), tr("datum xz plane"), tr("datum xy plane")};
  for (int i = 0; i < 3; ++i) addItem(datums[i], i);
  connect(this, &QComboBox::activated, this, [this] {
    const int datum = currentData().toInt();
    if (datum == kPicked) return;
    reference_ = {};
    reference_.datum = datum;
    Q_EMIT referenceChanged();
  });
}

bool ReferenceField::takes(const fit::SurfaceFit& fit) const {
  if (wants_ == Wants::Plane) return fit::is_flat(fit.surface.kind);
  return wants_ != Wants::Axis || fit::about(fit.surface.kind).direction != nullptr;
}

void ReferenceField::setWaiting(bool on) {
  if (on == waiting_) return;
  waiting_ = on;
  Q_EMIT waitingChanged();
}

void ReferenceField::showEvent(QShowEvent* event) {
  QComboBox::showEvent(event);
  Q_EMIT waitingChanged();
}

void ReferenceField::hideEvent(QHideEvent* event) {
  QComboBox::hideEvent(event);
  Q_EMIT waitingChanged();
}

void ReferenceField::show(const QString& picked) {
  setItemText(0, picked.isEmpty() ? tr("click a face or fit") : picked);
  setCurrentIndex(reference_.datum >= 0 ? reference_.datum + 1 : 0);
}

void ReferenceField::assign(const model::Reference& reference, const project::Document& document) {
  reference_ = reference;
  QString picked;
  if (!reference.face.empty()) picked = tr("face %1").arg(QString::fromStdString(reference.face));
  if (reference.fit != 0 || reference.region != 0)
    picked = QString::fromStdString(document.name_of({reference.region, reference.fit}));
  show(picked);
}

bool ReferenceField::offer(const Pick& pick, const model::Model& solid,
                           const project::Document& document) {
  if (pick.what == Pick::What::Model && pick.face < solid.face_count()) {
    model::Reference reference;
    reference.face = solid.face_name(pick.face);
    const auto meant = model::resolve(reference, solid);
    if (!meant || (wants_ == Wants::Plane && !fit::is_flat(meant->kind))) return false;
    assign(reference, document);
    Q_EMIT referenceChanged();
    return true;
  }
  return pick.region != 0 && offer(project::FitRef{pick.region, 0}, document);
}

bool ReferenceField::offer(const project::FitRef& ref, const project::Document& document) {
  const fit::SurfaceFit* fit = document.fit_of(ref);
  if (fit == nullptr || !takes(*fit)) return false;
  model::Reference reference;
  reference.region = ref.region;
  reference.fit = ref.fit;
  reference.surface = fit::transformed(fit->surface, document.to_part());
  assign(reference, document);
  Q_EMIT referenceChanged();
  return true;
}

}  // namespace lostline::app
