#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>

#include "fit/surface_kind.h"
#include "look/catalogue.h"
#include "look/preferences.h"
#include "look/theme.h"
#include "project/fits.h"
#include "project/relations.h"
#include "tools/tool.h"

namespace lostline::app {
namespace {

/// Relations between any number of fits, imposed together, each with what it costs.
class RelateTool : public ToolCard {
 public:
  explicit RelateTool(Workplace place)
      : ToolCard(place, tr("Relate"), tr("Survey")), relations_(document().relations) {
    type_ = new QComboBox;
    type_->setObjectName(QStringLiteral("relationType"));
    for (int t = 0; t <= static_cast<int>(fit::RelationType::Symmetric); ++t)
      type_->addItem(QString::fromUtf8(fit::relation_word(static_cast<fit::RelationType>(t))), t);
    addRow(tr("relation"), type_);
    members_ = new PickField(tr("pick the fits"), 3, tr("members"));
    members_->setWaiting(true);
    addRow(tr("fits"), members_);
    value_ = length(0, 0, 1e5, 0.5, 3, QStringLiteral("relationValue"));
    value_label_ = addRow(tr("value"), value_);
    follow_ = new QCheckBox(tr("the second stays as it is"));
    follow_->setToolTip(tr("Only the first gives way; a region always stays"));
    addWide(follow_);
    addButtons({{tr("add"), QStringLiteral("addRelation"),
                 tr("Impose this relation with the others"), [this] { add(); }},
                {tr("take back"), QStringLiteral("removeRelation"),
                 tr("Take back the relation chosen in the list"), [this] { remove(); }}});
    list_ = new QListWidget;
    list_->setObjectName(QStringLiteral("relations"));
    list_->setAccessibleName(tr("Relations"));
    list_->setToolTip(tr("Every relation with its cost and what the part says"));
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setFixedHeight(150);
    addWide(list_);
    connect(members_, &QPushButton::clicked, this, [this] { members_->clear(document()); });
    connect(type_, &QComboBox::currentIndexChanged, this, [this] { showRows(); });
    showRows();
    setKeepEnabled(false);
    setEvidence(tr("Click two regions or fits, choose their relation, add it."));
    if (!relations_.empty()) evaluate();
  }
  void pick(const Pick& pick) override {
    if (pick.region != 0) pickRef({pick.region, 0});
  }
  void pickRef(const project::FitRef& ref) override {
    while (members_->refs().size() >= wanted() &&
           std::find(members_->refs().begin(), members_->refs().end(), ref) ==
               members_->refs().end()) {
      auto refs = members_->refs();
      refs.erase(refs.begin());
      members_->assign(refs, document());
    }
    members_->offer(ref, document());
    place_.bench.setSelection(regions_of(members_->refs()));
    if (members_->refs().size() == wanted()) offerValue();
  }
  void documentChanged() override {
    members_->prune(document());
    const auto gone = [this](const project::FitRef& ref) {
      return !ref.empty() && document().fit_of(ref) == nullptr;
    };
    const auto lost = std::erase_if(relations_, [&](const project::FitRelation& r) {
      return gone(r.a) || gone(r.b) || gone(r.c);
    });
    place_.bench.setSelection(regions_of(members_->refs()));
    if (lost > 0) evaluate();
  }
  void resume() override {
    place_.bench.setSelection(regions_of(members_->refs()));
    if (!relations_.empty()) evaluate();
  }
  bool keep() override {
    commitAside(tr("%n relation(s)", nullptr, static_cast<int>(relations_.size())),
                [relations = relations_](const project::Document& d) -> Result<project::Document> {
                  project::Document next = d;
                  auto kept = relations;
                  keepRegions(next, kept);
                  return project::set_relations(next, kept);
                });
    return false;
  }

 private:
  [[nodiscard]] fit::RelationType type() const {
    return static_cast<fit::RelationType>(type_->currentData().toInt());
  }
  [[nodiscard]] std::size_t wanted() const {
    return static_cast<std::size_t>(fit::members_of(type()));
  }
  [[nodiscard]] bool inDegrees() const {
    if (type() == fit::RelationType::Angle) return true;
    const auto* f =
        members_->refs().empty() ? nullptr : document().fit_of(members_->refs().front());
    const fit::SizeInfo* size = f != nullptr ? fit::about(f->surface.kind).size() : nullptr;
    return type() == fit::RelationType::Size && size != nullptr &&
           size->unit == fit::SizeInfo::Unit::Angle;
  }
  /// Regions that may give way become fits.
  static void keepRegions(project::Document& d, std::vector<project::FitRelation>& relations) {
    for (project::FitRelation& r : relations) {
      const auto keep = [&](project::FitRef& ref) {
        if (ref.region != 0) ref = project::keep_region(d, ref.region);
      };
      keep(r.a);
      if (!r.follow) keep(r.b);
      if (!r.follow) keep(r.c);
    }
  }
  void showRows() {
    value_->setVisible(fit::has_value(type()));
    value_label_->setVisible(fit::has_value(type()));
    value_->setLength(!inDegrees());
    value_label_->setText(inDegrees() ? tr("value, \u00b0") : in_unit(tr("value, mm")));
    follow_->setVisible(wanted() > 1);
    settleHeight();
  }
  /// What the evidence has, as a start for the value.
  void offerValue() {
    showRows();
    const auto& refs = members_->refs();
    if (type() == fit::RelationType::Size) {
      const fit::Surface& s = document().fit_of(refs[0])->surface;
      if (const fit::SizeInfo* size = fit::about(s.kind).size()) value_->setValue(size->held(s));
    } else if (type() == fit::RelationType::Angle || type() == fit::RelationType::Distance) {
      const auto m =
          project::measure(document(), refs[0], refs[1], type() == fit::RelationType::Angle);
      if (m) value_->setValue(m->value);
    }
  }
  void add() {
    const auto& refs = members_->refs();
    if (refs.size() < wanted())
      return setError(tr("Pick %n fit(s) first.", nullptr, static_cast<int>(wanted())));
    project::FitRelation r;
    r.type = type();
    r.a = refs[0];
    if (wanted() > 1) r.b = refs[1];
    if (wanted() > 2) r.c = refs[2];
    r.value = inDegrees() ? value_->value() / kDegrees : value_->value();
    r.follow = follow_->isChecked();
    relations_.push_back(r);
    members_->clear(document());
    place_.bench.setSelection({});
    evaluate();
  }
  void remove() {
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(relations_.size()))
      return setError(tr("Choose a relation in the list first."));
    relations_.erase(relations_.begin() + row);
    evaluate();
  }
  void evaluate() {
    setKeepEnabled(false);
    aside([this, relations = relations_,
           snapshot = place_.session.snapshot()](const Task& task) mutable -> Session::Finish {
      project::Document d = *snapshot;
      keepRegions(d, relations);
      auto trial = project::try_relations(d, relations, task);
      return [this, d, relations, trial = std::move(trial)] {
        list_->clear();
        for (std::size_t i = 0; i < relations.size(); ++i) {
          const project::FitRelation& r = trial ? trial->relations[i] : relations[i];
          const std::string words = trial ? project::describe(d, r)
                                          : std::string(fit::relation_word(r.type)) + " " +
                                                (r.b.empty() ? "" : d.name_of(r.b));
          auto* item =
              new QListWidgetItem(QString::fromStdString(d.name_of(r.a) + " " + words), list_);
          if (trial && project::matters(d, r.cost)) {
            item->setText(QStringLiteral("\u26a0 ") + item->text());
            item->setForeground(role::red_pencil);
          }
        }
        if (!trial) return setError(core_text(trial.error().message));
        setKeepEnabled(true);
        const auto disagree =
            std::count_if(trial->relations.begin(), trial->relations.end(),
                          [&d](const auto& r) { return project::matters(d, r.cost); });
        setEvidence(
            relations.empty() ? tr("No relations: every fit is what the evidence says.")
            : disagree == 0
                ? tr("None departs by what matters: the part was meant so, or cannot tell.")
                : tr("The part disagrees with %n of them.", nullptr, static_cast<int>(disagree)));
      };
    });
  }
  std::vector<project::FitRelation> relations_;
  QComboBox* type_;
  PickField* members_;
  LengthBox* value_;
  QLabel* value_label_;
  QCheckBox* follow_;
  QListWidget* list_;
};

}  // namespace

Tool relate_tool() {
  Tool tool{QT_TRANSLATE_NOOP("tools", "Relate"),
            "link-2",
            QT_TRANSLATE_NOOP("tools", "Relations between fits, imposed together"),
            kSurvey,
            'r',
            Tool::Needs::Survey,
            [](Workplace place, project::Id) -> ToolCard* { return new RelateTool(place); }};
  tool.takes = {Item::Kind::Region, Item::Kind::Fit};
  return tool;
}

}  // namespace lostline::app
