#include "parcels/parcel_dialog.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHeaderView>
#include <QLocale>
#include <QSettings>
#include <QVBoxLayout>

#include "numbers.h"

namespace rubble::app {

namespace {

QString name_of(parcel::Receiver receiver) {
    switch (receiver) {
    case parcel::Receiver::programmer:
        return ParcelDialog::tr("Programmer: geometry with collision, elements, tiles, names");
    case parcel::Receiver::artist:
        return ParcelDialog::tr("Artist: geometry by layer, what is grey, plans");
    case parcel::Receiver::tester:
        return ParcelDialog::tr("Tester: what was checked, on one page, and plans");
    }
    return {};
}

QString setting(const char* what) { return QStringLiteral("parcel/") + QLatin1String(what); }

} // namespace

ParcelDialog::ParcelDialog(Session& session, QWidget* parent)
    : QDialog(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) {
          auto files = parcel::parcel_of(job.project, job.level, *job.result, job.receiver, cancel,
                                         [this, number](double part) { emit progressed(number, part); });
          if (cancel.requested()) return;
          {
              const std::lock_guard lock(guard_);
              made_ = {number, std::move(files)};
          }
          emit madeUp(number);
      }) {
    setWindowTitle(tr("Make a parcel"));
    resize(fontMetrics().averageCharWidth() * 90, fontMetrics().height() * 32);
    auto* column = new QVBoxLayout(this);
    auto* form = new QFormLayout;
    receiver_ = new QComboBox;
    receiver_->setAccessibleName(tr("For"));
    for (const parcel::ReceiverKind& kind : parcel::receivers())
        receiver_->addItem(name_of(kind.receiver), QString::fromLatin1(kind.key));
    receiver_->setCurrentIndex(
        std::max(0, receiver_->findData(QSettings().value(setting("receiver")).toString())));
    form->addRow(tr("For"), receiver_);
    auto* where = new QWidget;
    auto* row = new QHBoxLayout(where);
    row->setContentsMargins(0, 0, 0, 0);
    target_ = new QLineEdit(QSettings().value(setting("target")).toString());
    target_->setAccessibleName(tr("Into"));
    target_->setPlaceholderText(tr("A folder, or a file that ends in .zip"));
    auto* browse = new QPushButton(tr("Choose…"));
    browse->setAccessibleName(tr("Choose where it goes"));
    row->addWidget(target_, 1), row->addWidget(browse);
    form->addRow(tr("Into"), where);
    column->addLayout(form);
    open_ = new QLabel, changes_ = new QLabel;
    open_->setWordWrap(true), changes_->setWordWrap(true);
    column->addWidget(open_);
    must_hold_ = new QCheckBox(tr("None while a claim fails or a blocker is open"));
    must_hold_->setAccessibleName(must_hold_->text());
    must_hold_->setChecked(QSettings().value(setting("must_hold")).toBool());
    column->addWidget(must_hold_);
    files_ = new QTreeWidget;
    files_->setAccessibleName(tr("What is in it"));
    files_->setHeaderLabels({tr("File"), tr("Size"), tr("Since the last one")});
    files_->setRootIsDecorated(false);
    files_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    files_->header()->setStretchLastSection(false);
    column->addWidget(files_, 1);
    column->addWidget(changes_);
    progress_ = new QProgressBar;
    progress_->setAccessibleName(tr("How far it is put together"));
    progress_->setRange(0, 1000);
    column->addWidget(progress_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    make_ = buttons->addButton(tr("Make the parcel"), QDialogButtonBox::AcceptRole);
    column->addWidget(buttons);
    browse->setAutoDefault(false);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, &ParcelDialog::write);
    connect(browse, &QPushButton::clicked, this, &ParcelDialog::choose_target);
    connect(receiver_, &QComboBox::currentIndexChanged, this, &ParcelDialog::put_together);
    connect(target_, &QLineEdit::textChanged, this, &ParcelDialog::show_files);
    connect(must_hold_, &QCheckBox::toggled, this, [this] { make_->setEnabled(may_be_made()); });
    connect(
        this, &ParcelDialog::progressed, this,
        [this](quint64 number, double part) {
            if (number == number_) progress_->setValue(int(part * 1000));
        },
        Qt::QueuedConnection);
    connect(this, &ParcelDialog::madeUp, this, &ParcelDialog::show_made, Qt::QueuedConnection);
    put_together();
}

ParcelDialog::~ParcelDialog() { jobs_.drop(); }

void ParcelDialog::choose_target() {
    QString path = QFileDialog::getSaveFileName(this, tr("Where the parcel goes"), target_->text(),
                                                tr("Zip (*.zip);;Folder (*)"), nullptr,
                                                QFileDialog::DontConfirmOverwrite);
    if (!path.isEmpty()) target_->setText(path);
}

bool ParcelDialog::may_be_made() const {
    return !shown_.empty() && !target_->text().trimmed().isEmpty() &&
           (is_open_.empty() || !must_hold_->isChecked());
}

void ParcelDialog::put_together() {
    shown_.clear();
    show_files();
    const auto& result = session_.built().check;
    if (!result || !result->complete || !session_.up_to_date()) {
        open_->setText(tr("The level is being checked; open this again in a moment"));
        return;
    }
    is_open_ = parcel::open_in(session_.stored_level(), *result);
    const auto blockers = int(is_open_.blockers.size()), claims = int(is_open_.failing_claims.size());
    QString text = is_open_.empty() ? tr("Nothing is open: every claim holds and there is no blocker")
                                    : tr("Open: %1, %2 that do not hold")
                                          .arg(counted(blockers, tr("blocker"), tr("blockers")),
                                               counted(claims, tr("claim"), tr("claims")));
    QStringList which;
    for (const auto* list : {&is_open_.failing_claims, &is_open_.blockers})
        for (const std::string& one : *list) which << QString::fromStdString(one);
    if (!which.isEmpty()) text += '\n' + which.mid(0, 3).join('\n');
    open_->setText(text);
    const auto receiver = parcel::receiver_of(receiver_->currentData().toString().toStdString());
    if (!receiver) return;
    progress_->setValue(0);
    progress_->show();
    number_ = jobs_.ask({session_.project(), session_.stored_level(), result, *receiver});
}

void ParcelDialog::show_made() {
    Made made;
    {
        const std::lock_guard lock(guard_);
        if (made_.number != number_ || !made_.files) return;
        made = std::exchange(made_, {});
    }
    progress_->hide();
    if (*made.files)
        shown_ = std::move(**made.files);
    else
        changes_->setText(QString::fromStdString(made.files->error().text()));
    if (!shown_.empty()) show_files();
}

void ParcelDialog::show_files() {
    files_->clear();
    const QString target = target_->text().trimmed();
    const auto changes = target.isEmpty() || shown_.empty()
                             ? std::nullopt
                             : parcel::changes_since(shown_, target.toStdString());
    const auto is_in = [](const std::vector<std::string>& list, const std::string& path) {
        return std::find(list.begin(), list.end(), path) != list.end();
    };
    const QLocale locale;
    for (const auto& [path, bytes] : shown_) {
        QString since;
        if (changes)
            since = is_in(changes->added, path)     ? tr("new")
                    : is_in(changes->changed, path) ? tr("changed")
                                                    : tr("as before");
        auto* row = new QTreeWidgetItem(
            files_, {QString::fromStdString(path), locale.formattedDataSize(qint64(bytes.size())), since});
        row->setTextAlignment(1, Qt::AlignRight);
    }
    if (changes)
        for (const std::string& path : changes->gone)
            new QTreeWidgetItem(files_, {QString::fromStdString(path), {}, tr("gone")});
    changes_->setText(shown_.empty() || target.isEmpty() ? QString()
                      : !changes                         ? tr("No parcel is there yet")
                      : changes->empty() ? tr("Nothing changed since the parcel that is there")
                                         : tr("%1 new, %2 changed, %3 gone since the parcel that is there")
                                               .arg(changes->added.size())
                                               .arg(changes->changed.size())
                                               .arg(changes->gone.size()));
    for (int column : {1, 2}) files_->resizeColumnToContents(column);
    make_->setEnabled(may_be_made());
}

void ParcelDialog::write() {
    if (!may_be_made()) return;
    const QString target = target_->text().trimmed();
    const auto done = parcel::write_parcel(shown_, target.toStdString());
    if (!done) return changes_->setText(QString::fromStdString(done.error().text()));
    QSettings settings;
    settings.setValue(setting("receiver"), receiver_->currentData());
    settings.setValue(setting("target"), target);
    settings.setValue(setting("must_hold"), must_hold_->isChecked());
    written_ = target;
    accept();
}

} // namespace rubble::app
