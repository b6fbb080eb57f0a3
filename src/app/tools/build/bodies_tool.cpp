#include <QColorDialog>
#include <QHeaderView>
#include <QTreeWidget>

#include "base/text.h"
#include "look/catalogue.h"
#include "look/theme.h"
#include "project/bodies.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Names, colours and shows the bodies of the model.
class BodiesTool : public ToolCard {
 public:
  explicit BodiesTool(Workplace place) : ToolCard(place, tr("Bodies"), tr("Build")) {
    list_ = new QTreeWidget;
    list_->setObjectName(QStringLiteral("bodies"));
    list_->setAccessibleName(tr("Bodies of the model"));
    list_->setHeaderLabels({tr("body"), tr("kind"), tr("cm\u00b3")});
    list_->setRootIsDecorated(false);
    list_->setMinimumHeight(150);
    list_->header()->setStretchLastSection(false);
    list_->header()->setMinimumSectionSize(30);
    list_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->headerItem()->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
    list_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    list_->setToolTip(tr("Tick a body to show it; double-click its name to change it"));
    addWide(list_);
    addButtons({{tr("colour \u2026"), QStringLiteral("bodyColour"),
                 tr("A colour of its own, on the Bench and in files"), [this] { pickColour(); }},
                {tr("no colour"), QStringLiteral("bodyPlain"), tr("The colour of the model again"),
                 [this] { paint(std::nullopt); }},
                {tr("show all"), QStringLiteral("bodiesAll"), tr("Show every body"), [this] {
                   for (int i = 0; i < list_->topLevelItemCount(); ++i)
                     list_->topLevelItem(i)->setCheckState(0, Qt::Checked);
                 }}});
    connect(list_, &QTreeWidget::itemSelectionChanged, this, [this] { mark(); });
    connect(list_, &QTreeWidget::itemChanged, this, [this] { setKeepEnabled(true); });
  }
  void begin() override {
    place_.bench.setShow(Show::Model);
    fill();
  }
  void documentChanged() override {
    // Not when only the distances of the scan have come: what is typed would be lost.
    const model::Model& now = place_.session.route()->solid;
    const bool same =
        now.empty() == bodies_.empty() && (now.empty() || &now.impl() == &bodies_.impl());
    if (!same || document().bodies != listed_) fill();
  }
  void resume() override {
    place_.bench.setShow(Show::Model);
    mark();
  }
  bool keep() override {
    project::Document next = document();
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
      const QTreeWidgetItem& item = *list_->topLevelItem(i);
      const model::Body& body = bodies_.body(static_cast<std::size_t>(i));
      project::BodyLook look = project::look_of(document(), body);
      const std::string name = item.text(0).trimmed().toStdString();
      if (name.empty()) {
        setError(tr("Give every body a name."));
        return false;
      }
      if (name != project::body_title(document(), body)) look.name = name;
      look.shown = item.checkState(0) == Qt::Checked;
      look.colour = colours_[static_cast<std::size_t>(i)];
      if (look.colour == body.colour) look.colour.reset();  // as its file has it
      auto changed = project::with_body_look(next, body.key, look);
      if (!changed) {
        setError(core_text(changed.error().message));
        return false;
      }
      next = *std::move(changed);
    }
    if (next.bodies != document().bodies) place_.session.commit(tr("bodies"), next);
    return true;
  }

 private:
  void fill() {
    bodies_ = place_.session.route()->solid;
    listed_ = document().bodies;
    colours_.clear();
    const QSignalBlocker block(list_);
    list_->clear();
    for (std::size_t i = 0; i < bodies_.body_count(); ++i) {
      const model::Body& body = bodies_.body(i);
      const project::BodyLook look = project::look_of(document(), body);
      colours_.push_back(look.colour);
      auto* item = new QTreeWidgetItem(
          list_, {QString::fromStdString(project::body_title(document(), body)),
                  core_word(model::kind_name(body.kind)),
                  body.kind == model::BodyKind::Solid
                      ? QString::fromStdString(format_fixed(bodies_.only(i).volume() / 1000, 2))
                      : QString()});
      item->setFlags(item->flags() | Qt::ItemIsEditable | Qt::ItemIsUserCheckable);
      item->setCheckState(0, look.shown ? Qt::Checked : Qt::Unchecked);
      item->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
      swatch(*item, look.colour);
    }
    setEvidence(bodies_.empty() ? tr("There is no model yet: build a step first.")
                                : tr("%n bodies", nullptr, static_cast<int>(bodies_.body_count())));
    settleHeight();
  }
  static void swatch(QTreeWidgetItem& item, const std::optional<model::Colour>& colour) {
    QPixmap pixmap(12, 12);
    pixmap.fill(colour ? QColor((*colour)[0], (*colour)[1], (*colour)[2])
                       : QColor(0x9F, 0xB0, 0xBE));
    item.setIcon(0, pixmap);
  }
  void mark() {
    std::vector<std::uint32_t> faces;
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    for (std::size_t f = 0; row >= 0 && f < bodies_.face_count(); ++f) {
      if (bodies_.body_of_face(f) == static_cast<std::size_t>(row))
        faces.push_back(static_cast<std::uint32_t>(f));
    }
    place_.bench.setModelSelection(faces);
  }
  void pick(const Pick& pick) override {
    if (pick.what != Pick::What::Model || pick.face >= bodies_.face_count()) return;
    list_->setCurrentItem(list_->topLevelItem(static_cast<int>(bodies_.body_of_face(pick.face))));
  }
  void pickColour() {
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    if (row < 0) return setEvidence(tr("Select a body in the list or click it first."));
    const auto& now = colours_[static_cast<std::size_t>(row)];
    const QColor chosen = QColorDialog::getColor(
        now ? QColor((*now)[0], (*now)[1], (*now)[2]) : Qt::gray, this, tr("Colour of the body"));
    if (chosen.isValid())
      paint(model::Colour{static_cast<std::uint8_t>(chosen.red()),
                          static_cast<std::uint8_t>(chosen.green()),
                          static_cast<std::uint8_t>(chosen.blue())});
  }
  void paint(std::optional<model::Colour> colour) {
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    if (row < 0) return setEvidence(tr("Select a body in the list or click it first."));
    colours_[static_cast<std::size_t>(row)] = colour;
    swatch(*list_->topLevelItem(row), colour);
    setKeepEnabled(true);
  }

  QTreeWidget* list_;
  model::Model bodies_;
  std::map<std::string, project::BodyLook> listed_;  ///< as the list was filled
  std::vector<std::optional<model::Colour>> colours_;
};

}  // namespace

Tool bodies_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Bodies"),
            "layers",
            QT_TRANSLATE_NOOP("tools", "Name, colour, show and hide the bodies of the model"),
            kBuild,
            'y',
            Tool::Needs::Model,
            [](Workplace place, project::Id) -> ToolCard* { return new BodiesTool(place); }};
  tool.group = QT_TRANSLATE_NOOP("tools", "Bodies");
  return tool;
}

}  // namespace lostline::app
