#include "project/project_page.h"

#include <algorithm>

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QVBoxLayout>

#include "check/check.h"
#include "commands/project_levels.h"
#include "numbers.h"
#include "theme.h"
#include "window/welcome.h"

namespace rubble::app {

namespace {

constexpr QSize k_picture{96, 60};

/// How a level stands, in words.
QString state_of(const check::CheckResult& result) {
    int holds = 0, blockers = 0;
    for (const check::ClaimResult& claim : result.claims) holds += claim.state == check::ClaimState::holds;
    for (const check::Finding& finding : result.findings)
        blockers += finding.severity == check::Severity::blocker;
    const QString claims = result.claims.empty()
                               ? ProjectPage::tr("no claims")
                               : ProjectPage::tr("%1 of %2 claims hold").arg(holds).arg(result.claims.size());
    return claims + QStringLiteral(", ") +
           counted(blockers, ProjectPage::tr("blocker"), ProjectPage::tr("blockers"));
}
bool stands_well(const check::CheckResult& result) {
    return std::all_of(result.claims.begin(), result.claims.end(),
                       [](const auto& claim) { return claim.state == check::ClaimState::holds; }) &&
           std::none_of(result.findings.begin(), result.findings.end(),
                        [](const auto& one) { return one.severity == check::Severity::blocker; });
}

} // namespace

ProjectPage::ProjectPage(Session& session, QWidget* parent)
    : QDialog(parent),
      session_(session),
      checks_([this](const Job& job, uint64_t number, const Cancel& cancel) {
          for (size_t i = 0; i < job.document.levels.size() && !cancel.requested(); ++i) {
              if (job.document.levels[i].is_part()) continue;
              check::CheckOptions options;
              options.cancel = cancel, options.mends = false;
              const auto result =
                  check::check_level(*job.document.project, *job.document.levels[i].level, options);
              if (result.complete && !cancel.requested())
                  emit checkedLevel(number, int(i), state_of(result), stands_well(result));
          }
      }) {
    setWindowTitle(tr("Project"));
    resize(fontMetrics().averageCharWidth() * 110, fontMetrics().height() * 36);
    auto* column = new QVBoxLayout(this);
    about_ = new QLabel;
    about_->setWordWrap(true);
    column->addWidget(about_);
    auto* across = new QHBoxLayout;
    column->addLayout(across, 1);
    list_ = new QTreeWidget;
    list_->setAccessibleName(tr("Levels in the order of play"));
    list_->setHeaderLabels({tr("Level"), tr("How it stands"), tr("File")});
    list_->setRootIsDecorated(false);
    list_->setIconSize(k_picture);
    list_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    list_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    list_->header()->setStretchLastSection(false);
    across->addWidget(list_, 1);
    auto* beside = new QVBoxLayout;
    across->addLayout(beside);
    const auto offer = [&](const QString& text, std::function<void()> run) {
        auto* button = new QPushButton(text);
        button->setAccessibleName(text);
        button->setAutoDefault(false);
        connect(button, &QPushButton::clicked, this, std::move(run));
        beside->addWidget(button);
        return button;
    };
    offer(tr("Open it"), [this] { act([this](size_t i) { session_.documents().show_level(i); }); });
    offer(tr("Earlier"), [this] { act([this](size_t i) { move_level(session_, i, -1); }); });
    offer(tr("Later"), [this] { act([this](size_t i) { move_level(session_, i, 1); }); });
    offer(tr("Rename…"), [this] { rename(); });
    offer(tr("Duplicate"), [this] { act([this](size_t i) { duplicate_level(session_, i); }); });
    offer(tr("New level…"), [this] { add(); });
    offer(tr("Begin one from its walls…"), [this] {
        act([this](size_t i) {
            if (const std::string file = session_.document().levels[i].file; !file.empty()) {
                accept();
                emit beginWanted(QString::fromStdString(file));
            }
        });
    });
    offer(tr("Move the selection to it"),
          [this] { act([this](size_t i) { move_selection_to_level(session_, i); }); });
    offer(tr("Check all"), [this] { check_all(); });
    folder_ = offer(tr("Make this a project…"), [this] { make_folder(); });
    beside->addStretch();
    progress_ = new QProgressBar;
    progress_->setAccessibleName(tr("How many are checked"));
    progress_->hide();
    column->addWidget(progress_);
    agreed_ = new QLabel;
    agreed_->setWordWrap(true);
    column->addWidget(agreed_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    buttons->button(QDialogButtonBox::Close)->setAutoDefault(false); // Enter belongs to the list
    const std::tuple<const char*, QString> leads[] = {{"stage-1", tr("Numbers and characters")},
                                                      {"element-kinds", tr("Kinds of elements…")},
                                                      {"stage-4", tr("Materials")},
                                                      {"stage-2", tr("Kits")}};
    for (const auto& [id, text] : leads) {
        auto* button = buttons->addButton(text, QDialogButtonBox::ActionRole);
        button->setAutoDefault(false);
        connect(button, &QPushButton::clicked, this, [this, id = QString::fromLatin1(id)] {
            accept();
            emit commandWanted(id);
        });
    }
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QTreeWidget::itemActivated, this,
            [this] { act([this](size_t i) { session_.documents().show_level(i), accept(); }); });
    connect(&session_.documents(), &Documents::changed, this, &ProjectPage::fill);
    connect(
        this, &ProjectPage::checkedLevel, this,
        [this](quint64 number, int index, const QString& state, bool good) {
            if (number != number_ || size_t(index) >= session_.document().levels.size()) return;
            states_[session_.document().levels[size_t(index)].level->name] = state;
            progress_->setValue(index + 1);
            progress_->setVisible(index + 1 < progress_->maximum());
            if (QTreeWidgetItem* row = list_->topLevelItem(index)) {
                row->setText(1, state);
                row->setForeground(1, good ? color::sea_green : color::plum);
            }
        },
        Qt::QueuedConnection);
    fill();
    list_->setFocus();
}

ProjectPage::~ProjectPage() { checks_.drop(); }

void ProjectPage::act(const std::function<void(size_t)>& on_chosen) {
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    if (row >= 0) on_chosen(size_t(row));
}

void ProjectPage::fill() {
    const Document& document = session_.document();
    const QString chosen = list_->currentItem() ? list_->currentItem()->text(0) : QString();
    list_->clear();
    for (size_t i = 0; i < document.levels.size(); ++i) {
        const OpenLevel& open = document.levels[i];
        const auto state = states_.find(open.level->name);
        const bool saved = i < session_.documents().last_saved().levels.size() &&
                           session_.documents().last_saved().levels[i] == open;
        const QString name = QString::fromStdString(open.level->name);
        auto* row = new QTreeWidgetItem(
            list_, {name, state == states_.end() ? (saved ? QString() : tr("not saved")) : state->second,
                    QFileInfo(QString::fromStdString(open.file)).fileName()});
        if (i == session_.documents().level_index()) {
            QFont font = row->font(0);
            font.setBold(true);
            row->setFont(0, font);
        }
        const QPixmap kept = picture_of_file(QString::fromStdString(open.file));
        QPixmap picture(k_picture);
        picture.fill(color::sky);
        if (!kept.isNull())
            picture = kept.scaled(k_picture, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
        row->setIcon(0, picture.copy(QRect(QPoint(0, 0), k_picture)));
        if (name == chosen || (!list_->currentItem() && i == session_.documents().level_index()))
            list_->setCurrentItem(row);
    }
    folder_->setVisible(document.folder.empty());
    about_->setText(document.folder.empty()
                        ? tr("This level stands alone. Made a project, it gets a folder with its levels, "
                             "materials, kits and agreed numbers in it.")
                        : tr("<b>%1</b> · %2")
                              .arg(QString::fromStdString(document.project->name).toHtmlEscaped(),
                                   QString::fromStdString(document.folder).toHtmlEscaped()));
    fill_agreed();
}

void ProjectPage::fill_agreed() {
    const Project& p = session_.project();
    agreed_->setText(
        tr("All of them agree on: grid %1, module %2; walls %3 thick, doors %4 and rooms %5 high; %6, %7, "
           "%8, %9")
            .arg(metres_text(p.grid_m), metres_text(p.module_m), metres_text(p.measures.wall_m),
                 metres_text(p.measures.door_m), metres_text(p.measures.ceiling_m),
                 counted(int(p.characters.size()), tr("character"), tr("characters")),
                 counted(int(p.materials.size()), tr("material"), tr("materials")),
                 counted(int(p.kits.size()), tr("kit"), tr("kits")),
                 counted(int(p.element_kinds.size()), tr("kind of its own"), tr("kinds of its own"))));
}

void ProjectPage::check_all() {
    progress_->setRange(0, int(session_.document().levels.size()));
    progress_->setValue(0);
    progress_->show();
    number_ = checks_.ask({session_.document()});
}

void ProjectPage::rename() {
    act([this](size_t i) {
        bool given = false;
        const QString name =
            QInputDialog::getText(this, tr("Rename"), tr("Name of the level"), QLineEdit::Normal,
                                  QString::fromStdString(session_.document().levels[i].level->name), &given);
        if (given) rename_level(session_, i, name);
    });
}

void ProjectPage::add() {
    bool given = false;
    const QStringList frames{tr("Space"), tr("Side"), tr("Plan")};
    const QString frame =
        QInputDialog::getItem(this, tr("New level"), tr("How it is seen"), frames, 0, false, &given);
    if (given) add_level(session_, tr("New level"), Frame(std::max(0, int(frames.indexOf(frame)))));
}

void ProjectPage::make_folder() {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder of the project"));
    if (folder.isEmpty()) return;
    if (const auto made = make_project(session_, folder); !made)
        QMessageBox::warning(this, tr("Project"), QString::fromStdString(made.error().text()));
    fill();
}

} // namespace rubble::app
