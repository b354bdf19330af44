import type { ClientsCode } from '../../say/told'

/** What the server may answer, by its code; {} stands for what differs. */
export const answers: Record<ClientsCode, string> = {
  'time-taken':
    'Diese Zeit wurde gerade vergeben. Nichts, was Sie eingegeben haben, ist verloren: Wählen Sie eine andere Zeit und buchen Sie sie.',
  'seats-few':
    'Es sind dann weniger Plätze frei, als Sie möchten. Nichts von dem, was Sie eingegeben haben, ist verloren: Wählen Sie eine andere Zeit, oder lassen Sie jemanden weg.',
  'along-many': 'So viele können nicht mitkommen; höchstens {}.',
  'along-on-list':
    'Man wartet auf einen einzelnen Platz. Lassen Sie weg, wer mitkommt; jeder kann sich selbst auf die Liste setzen.',
  'along-name': 'Geben Sie den Namen der Person ein, die mitkommt.',
  'give-other': 'Diese Person hat ihn schon. Geben Sie ein, wer ihn stattdessen haben soll.',
  'give-not': 'Weitergeben lässt sich nur ein gebuchter Platz, wo auch andere kommen.',
  'give-name': 'Geben Sie den Namen der Person ein, die den Platz haben soll.',
  'give-mail': 'Geben Sie die E-Mail-Adresse der anderen Person ein: Dorthin geht die Einladung.',
  'series-full':
    'Diese Reihe ist gerade voll geworden. Nichts von dem, was Sie eingegeben haben, ist verloren: Wählen Sie eine andere und buchen Sie sie.',
  'series-stays':
    'Dieser Termin gehört zu einer Reihe, die als Ganzes gebucht wird, und kann nicht verschoben werden. Sagen Sie ihn einzeln ab, oder schreiben Sie Ihrem Gastgeber.',
  'time-gone':
    'Diese Zeit ist schon vorbei. Nichts, was Sie eingegeben haben, ist verloren: Wählen Sie eine andere Zeit und buchen Sie sie.',
  'calendar-silent':
    'Der Kalender Ihres Gegenübers antwortet gerade nicht, deshalb kann diese Zeit nicht zugesagt werden. Nichts ist verloren: Versuchen Sie es in ein paar Minuten noch einmal.',
  'form-faulty': 'Etwas von dem, was eingegeben wurde, kann nicht verwendet werden; nichts wurde geändert.',
  'name-missing': 'Geben Sie Ihren Namen an, damit wir wissen, wer kommt.',
  'mail-missing': 'Geben Sie Ihre E-Mail-Adresse an: Die Einladung geht dorthin.',
  'mail-incomplete': 'Das ist keine vollständige E-Mail-Adresse. Sie sollte aussehen wie name@museum.example.',
  'phone-incomplete':
    'Das ist keine vollständige Telefonnummer. Geben Sie sie mit der Landesvorwahl an, etwa +44 20 7946 0958.',
  'answer-not-ticked': 'Bitte haken Sie dies an, um fortzufahren.',
  'answer-not-chosen': 'Bitte wählen Sie eine Antwort.',
  'answer-missing': 'Bitte beantworten Sie dies.',
  'answer-no-number': 'Bitte geben Sie eine Zahl ein, etwa 12 oder 3,5.',
  'reason-missing': 'Bitte nennen Sie den Grund, damit Ihr Gegenüber Bescheid weiß.',
  'address-missing': 'Geben Sie die Adresse an, an der wir uns treffen.',
  'page-unknown': 'Diese Seite gibt es nicht oder nicht mehr. Prüfen Sie die Adresse, oder bitten Sie um eine neue.',
  'booking-unknown':
    'Dieser Link führt nicht oder nicht mehr zu einer Buchung. Nehmen Sie den Link aus Ihrer letzten E-Mail dazu.',
  'proposal-taken':
    'Diese Zeit wurde inzwischen vergeben. Wählen Sie eine andere der vorgeschlagenen, oder warten Sie auf Nachricht.',
  'too-many-attempts':
    'Zu viele Versuche von hier innerhalb einer Minute. Nichts ist verloren: Warten Sie eine Minute und versuchen Sie es dann noch einmal.',
  'page-off':
    'Das kann im Moment nicht gebucht werden. Nichts, was Sie eingegeben haben, ist verloren; schreiben Sie an {}, wenn es eilt.',
  'page-for-people':
    'Nur Angehörige von {} können das buchen. Wenn Sie dazugehören, melden Sie sich zuerst an und öffnen Sie dann diese Seite noch einmal.',
  'page-for-hosts': 'Das kann hier nicht gebucht werden. Schreiben Sie an {}, dort wird es für Sie eingetragen.',
  'name-long': 'Ein Name hat höchstens 200 Zeichen.',
  'remark-long': 'Eine Anmerkung darf höchstens 4000 Zeichen haben.',
  'reason-long': 'Ein Grund hat höchstens 1000 Zeichen.',
  'answer-long': 'Eine Antwort hat hier höchstens {} Zeichen.',
  'zone-unknown': 'Wählen Sie Ihre Zeitzone aus der Liste.',
  'guest-incomplete': '„{}“ ist keine vollständige E-Mail-Adresse.',
  'guests-many': 'Mehr Gäste können nicht mitkommen; höchstens {}.',
  'location-unknown': 'Dieser Ort wird nicht oder nicht mehr angeboten. Wählen Sie einen anderen.',
  'length-unknown': 'Diese Dauer wird nicht oder nicht mehr angeboten. Wählen Sie eine andere.',
  'answer-unknown': '„{}“ ist nicht oder nicht mehr unter den Antworten. Bitte wählen Sie noch einmal.',
  'answer-several': 'Hier ist nur eine Antwort möglich.',
  'question-unknown':
    'Diese Frage kann im Moment nicht beantwortet werden. Lassen Sie sie aus, oder schreiben Sie uns.',
  'answer-no-yes-no': 'Bitte wählen Sie Ja oder Nein.',
  'web-incomplete': 'Das ist keine vollständige Webadresse. Sie sollte aussehen wie https://museum.example/plan.',
  'answer-no-date': 'Bitte geben Sie ein Datum ein, etwa 2027-03-14.',
  'puzzle-missing':
    'Die kleine Aufgabe, die Automaten fernhält, ist noch nicht gelöst. Bitte warten Sie einen Moment und drücken Sie noch einmal.',
  'puzzle-old':
    'Die kleine Aufgabe, die Automaten fernhält, ist zu alt. Ihr Browser löst eine neue; bitte drücken Sie noch einmal.',
  'puzzle-wrong':
    'Die kleine Aufgabe, die Automaten fernhält, wurde nicht gelöst. Ihr Browser versucht eine neue; bitte drücken Sie noch einmal.',
  'code-wrong': 'Das ist nicht der Code. Sehen Sie in unserer neuesten E-Mail nach; verbleibende Versuche: {}.',
  'code-spent':
    'Der Code war fünfmal falsch, deshalb ist die Reservierung abgelaufen. Buchen Sie noch einmal, dann bekommen Sie einen neuen Code per E-Mail.',
  'booking-unproved': 'Diese Buchung wartet noch auf ihren Code.',
  'booking-requested': 'Das ist angefragt und noch nicht entschieden.',
  'booking-booked': 'Das ist schon gebucht.',
  'booking-cancelled': 'Diese Buchung wurde abgesagt. Buchen Sie stattdessen eine neue Zeit.',
  'booking-declined': 'Diese Anfrage wurde abgelehnt. Buchen Sie stattdessen eine neue Zeit.',
  'booking-expired':
    'Die Reservierung ist abgelaufen, weil niemand rechtzeitig entschieden hat. Buchen Sie stattdessen eine neue Zeit.',
  'list-on': 'Diese Mailadresse steht schon auf der Warteliste. Der Link in der Mail dazu führt zu Ihrem Platz.',
  'list-none': 'Hier gibt es keine Warteliste. Wählen Sie einen anderen Termin, oder schreiben Sie uns.',
  'list-full': 'Sehr viele warten schon darauf. Wählen Sie einen anderen Termin, oder schreiben Sie an {}.',
  'list-unneeded':
    'An diesem Termin hat sich inzwischen etwas geändert: Sehen Sie nach, ob ein Platz frei ist, oder wählen Sie einen anderen.',
  'seat-over':
    'Der Platz war eine Weile für Sie reserviert; diese Zeit ist vorbei. Er wurde der nächsten Person angeboten.',
  'seat-gone': 'Jemand war schneller: Im Augenblick ist kein Platz frei. Sie bleiben auf der Liste.',
  'seat-not-yet': 'Noch ist kein Platz für Sie frei. Wir schreiben Ihnen, sobald einer frei ist.',
  'meeting-begun': 'Dieser Termin hat schon begonnen und kann nicht mehr geändert werden.',
  'move-never': 'Dieser Termin kann hier nicht verschoben werden. Schreiben Sie uns stattdessen.',
  'cancel-never': 'Dieser Termin kann hier nicht abgesagt werden. Schreiben Sie uns stattdessen.',
  'move-until-start': 'Bis zum Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'move-until-days': 'Bis {} Tage vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'move-until-hour': 'Bis 1 Stunde vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'move-until-hours': 'Bis {} Stunden vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'move-until-minute': 'Bis 1 Minute vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'move-until-minutes': 'Bis {} Minuten vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'cancel-until-start': 'Bis zum Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'cancel-until-days': 'Bis {} Tage vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'cancel-until-hour': 'Bis 1 Stunde vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'cancel-until-hours': 'Bis {} Stunden vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'cancel-until-minute': 'Bis 1 Minute vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'cancel-until-minutes': 'Bis {} Minuten vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'correct-late': 'Ihre Angaben können hier nicht mehr geändert werden. Schreiben Sie uns stattdessen.',
  'confirm-early': 'Bestätigen können Sie ab 48 Stunden vor dem Beginn.',
  'texts-landline': 'Das ist eine Festnetznummer, die keine SMS bekommt. Geben Sie eine Mobilnummer an.',
  'texts-not-there': 'In dieses Land werden keine SMS gesendet. Geben Sie eine andere Nummer an.',
  'texts-unagreed': 'Kreuzen Sie an, dass Sie SMS zustimmen, oder lassen Sie die Nummer weg.',
  'texts-stopped':
    'Diese Nummer hat unsere SMS beendet. Antworten Sie auf eine davon mit START, oder geben Sie eine andere Nummer an.',
  'code-phone-missing': 'Geben Sie Ihre Mobilnummer ein: Der Bestätigungscode kommt dorthin.',
  'code-phone-busy':
    'An diese Nummer gingen heute viele Bestätigungscodes. Geben Sie eine andere Nummer an, oder schreiben Sie an {}.',
  'texts-none': 'Zu diesem Termin werden keine SMS verschickt.',
  'rating-missing': 'Wählen Sie eine Zahl von 1 bis 5.',
  'rated-already': 'Sie haben schon gesagt, wie es war. Vielen Dank.',
  'rating-over': 'Wie dieser Termin war, kann hier nicht oder nicht mehr gesagt werden. Schreiben Sie uns stattdessen.',
  'proposal-unknown': 'Diese Zeit wird nicht mehr vorgeschlagen. Wählen Sie eine der anderen.',
  'offer-unknown':
    'Dieser Link führt nicht oder nicht mehr zu einem Angebot. Nehmen Sie den Link aus Ihrer letzten E-Mail dazu.',
  'offer-taken': 'Eine dieser Zeiten ist schon vergeben. Der Link in der E-Mail zu dieser Buchung führt dorthin.',
  'offer-withdrawn': 'Dieses Angebot wurde zurückgezogen. Schreiben Sie {} wegen anderer Zeiten.',
  'offer-expired': 'Dieses Angebot ist abgelaufen. Schreiben Sie {} wegen anderer Zeiten.',
  'file-unasked': 'Hier wird keine Datei verlangt. Laden Sie die Seite noch einmal.',
  'files-busy':
    'Im Moment werden zu viele Dateien geschickt. Nichts ist verloren: Versuchen Sie es in einer Stunde noch einmal, oder buchen Sie ohne die Datei.',
  'file-gone': 'Diese Datei ist nicht mehr hier. Wählen Sie sie noch einmal.',
  'file-empty': 'Diese Datei ist leer. Wählen Sie eine andere.',
  'file-large': 'Eine Datei hat hier höchstens 4 MB. Schicken Sie eine kleinere oder einen Link.',
  'file-kind':
    'Diese Datei kann nicht angenommen werden: Möglich sind PDF, PNG, JPEG und einfacher Text, und der Name muss es sagen.',
  failed:
    'Hier ist etwas schiefgegangen, und nichts wurde geändert. Versuchen Sie es noch einmal; wenn es so bleibt, sagen Sie es denen, die diese Seite betreiben.',
  'too-long': 'Das ist mehr Text, als angenommen werden kann. Kürzen Sie ihn und senden Sie noch einmal.',
  'given-up': 'Die Anfrage wurde abgebrochen, bevor sie fertig war. Senden Sie sie noch einmal.',
  'page-unpublished': 'Diese Seite ist noch nicht veröffentlicht. Fragen Sie {}, wann es so weit ist.',
  'client-full':
    'Mit einer E-Mail-Adresse können höchstens {} dieser Termine im Voraus gebucht werden. Verschieben Sie einen Ihrer Termine oder sagen Sie einen ab. Wenn Sie mehr brauchen, schreiben Sie an {}.',
  'client-busy':
    'Mit dieser E-Mail-Adresse wurden innerhalb einer Stunde viele Termine gebucht. Nichts, was Sie eingegeben haben, ist verloren: Versuchen Sie es später noch einmal. Wenn Sie mehr brauchen, schreiben Sie an {}.',
  'guest-busy': '{} wurde heute schon oft eingeladen. Lassen Sie diesen Gast weg, oder sagen Sie ihm selbst Bescheid.',
  'type-busy':
    'Heute wurden sehr viele dieser Termine gebucht, deshalb werden im Moment keine weiteren angenommen. Nichts, was Sie eingegeben haben, ist verloren: Versuchen Sie es morgen noch einmal. Wenn Sie mehr brauchen, schreiben Sie an {}.',
  'codes-sent':
    'Für diese Buchung wurden schon drei Codes gesendet. Sehen Sie auch im Spam-Ordner nach, oder ziehen Sie die Anfrage zurück und buchen Sie noch einmal.',
  'files-spent':
    'Sie haben zu viele Dateien gesendet, ohne zu buchen. Nichts ist verloren: Buchen Sie mit denen, die da sind, oder versuchen Sie es morgen noch einmal.',
}
