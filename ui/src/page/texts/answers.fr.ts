import type { ClientsCode } from '../../say/told'

/** What the server may answer, by its code; {} stands for what differs. */
export const answers: Record<ClientsCode, string> = {
  'time-taken':
    'Cet horaire vient d’être pris. Rien de ce que vous avez saisi n’est perdu : choisissez-en un autre et réservez-le.',
  'seats-few':
    'Il reste alors moins de places que vous n’en souhaitez. Rien de ce que vous avez saisi n’est perdu : choisissez un autre horaire, ou retirez quelqu’un.',
  'along-many': 'Vous ne pouvez pas venir aussi nombreux : {} personnes au plus peuvent vous accompagner.',
  'along-on-list':
    'La liste d’attente vaut pour une seule place. Retirez les autres personnes ; chacune peut s’inscrire elle-même.',
  'along-name': 'Indiquez le nom de la personne qui vous accompagne.',
  'give-other': 'C’est déjà le titulaire de la place. Indiquez à qui vous la cédez.',
  'give-not': 'Seule une place réservée dans un rendez-vous à plusieurs peut être cédée.',
  'give-name': 'Indiquez le nom de la personne à qui vous cédez la place.',
  'give-mail': 'Indiquez son adresse e-mail : l’invitation y sera envoyée.',
  'series-full':
    'Cette série vient d’être complète. Rien de ce que vous avez saisi n’est perdu : choisissez-en une autre et réservez-la.',
  'series-stays':
    'Cette date fait partie d’une série réservée en entier et ne peut pas être déplacée. Annulez-la seule, ou écrivez à votre hôte.',
  'time-gone':
    'Cet horaire est déjà passé. Rien de ce que vous avez saisi n’est perdu : choisissez-en un autre et réservez-le.',
  'calendar-silent':
    'L’agenda de votre hôte ne répond pas pour le moment, cet horaire ne peut donc pas être promis. Rien n’est perdu : réessayez dans quelques minutes.',
  'form-faulty': 'Une partie de la saisie ne peut pas être utilisée ; rien n’a été changé.',
  'name-missing': 'Indiquez votre nom, pour que nous sachions qui vient.',
  'mail-missing': 'Indiquez votre adresse mail : l’invitation y sera envoyée.',
  'mail-incomplete': 'Ce n’est pas une adresse mail complète. Elle devrait ressembler à nom@musee.example.',
  'phone-incomplete':
    'Ce n’est pas un numéro de téléphone complet. Indiquez-le avec l’indicatif du pays, par exemple +44 20 7946 0958.',
  'answer-not-ticked': 'Cochez cette case pour continuer.',
  'answer-not-chosen': 'Choisissez une réponse.',
  'answer-missing': 'Veuillez répondre.',
  'answer-no-number': 'Indiquez un nombre, par exemple 12 ou 3,5.',
  'reason-missing': 'Dites pourquoi, pour que votre hôte le sache.',
  'address-missing': 'Indiquez l’adresse du rendez-vous.',
  'page-unknown': 'Cette page n’existe pas, ou plus. Vérifiez l’adresse, ou demandez-en une nouvelle.',
  'booking-unknown': 'Ce lien ne mène pas, ou plus, à un rendez-vous. Prenez le lien de votre dernier mail.',
  'proposal-taken':
    'Cet horaire a été pris entre-temps. Choisissez-en un autre parmi ceux proposés, ou attendez votre hôte.',
  'too-many-attempts': 'Trop d’essais d’ici en une minute. Rien n’est perdu : attendez une minute, puis réessayez.',
  'page-off':
    'Ce n’est pas réservable en ce moment. Rien de ce que vous avez saisi n’est perdu ; écrivez à {} si c’est urgent.',
  'page-for-people':
    'Seules les personnes de {} peuvent réserver ceci. Si vous en êtes, connectez-vous d’abord, puis rouvrez cette page.',
  'page-for-hosts': 'Ceci ne se réserve pas ici. Écrivez à {}, qui l’inscrira pour vous.',
  'name-long': 'Un nom compte au plus 200 caractères.',
  'remark-long': 'Une remarque compte au plus 4000 caractères.',
  'reason-long': 'Un motif compte au plus 1000 caractères.',
  'answer-long': 'Une réponse compte ici au plus {} caractères.',
  'zone-unknown': 'Choisissez votre fuseau horaire dans la liste.',
  'guest-incomplete': '« {} » n’est pas une adresse mail complète.',
  'guests-many': 'Vous ne pouvez pas amener autant d’invités ; {} au plus.',
  'location-unknown': 'Cette façon de se rencontrer n’est pas, ou plus, proposée. Choisissez-en une autre.',
  'length-unknown': 'Cette durée n’est pas ou plus proposée. Choisissez-en une autre.',
  'answer-unknown': '« {} » n’est pas, ou plus, parmi les réponses. Choisissez de nouveau.',
  'answer-several': 'Une seule réponse est possible ici.',
  'question-unknown':
    'On ne peut pas répondre à cette question en ce moment. Laissez-la de côté, ou écrivez à votre hôte.',
  'answer-no-yes-no': 'Choisissez oui ou non.',
  'web-incomplete': 'Ce n’est pas une adresse web complète. Elle devrait ressembler à https://museum.example/plan.',
  'answer-no-date': 'Saisissez une date, comme 2027-03-14.',
  'puzzle-missing':
    'Le petit calcul qui tient les robots à distance n’est pas encore terminé. Attendez un instant et appuyez de nouveau.',
  'puzzle-old':
    'Le petit calcul qui tient les robots à distance date de trop longtemps. Votre navigateur en fait un autre ; appuyez de nouveau.',
  'puzzle-wrong':
    'Le petit calcul qui tient les robots à distance n’a pas abouti. Votre navigateur en essaie un autre ; appuyez de nouveau.',
  'code-wrong': 'Ce n’est pas le code. Cherchez notre dernier mail ; essais restants : {}.',
  'code-spent':
    'Le code était faux cinq fois : cet horaire ne vous est plus réservé. Réservez de nouveau, et vous recevrez un nouveau code par mail.',
  'booking-unproved': 'Cette réservation attend encore son code.',
  'booking-requested': 'La demande est faite, mais pas encore acceptée.',
  'booking-booked': 'C’est déjà réservé.',
  'booking-cancelled': 'Cette réservation a été annulée. Réservez un autre horaire.',
  'booking-declined': 'Cette demande a été refusée. Réservez un autre horaire.',
  'booking-expired': 'Cet horaire ne vous est plus réservé, car personne n’a décidé à temps. Réservez-en un autre.',
  'list-on': 'Cette adresse est déjà sur la liste d’attente. Le lien dans le message correspondant y mène.',
  'list-none': 'Il n’y a pas de liste d’attente ici. Choisissez une autre date, ou écrivez-nous.',
  'list-full': 'Beaucoup de personnes attendent déjà. Choisissez une autre date, ou écrivez à {}.',
  'list-unneeded': 'Cette date a changé entre-temps : regardez s’il reste une place, ou choisissez-en une autre.',
  'seat-over':
    'La place vous a été réservée un moment, et ce délai est passé. Elle a été proposée à la personne suivante.',
  'seat-gone': 'Quelqu’un a été plus rapide : aucune place n’est libre pour le moment. Vous restez sur la liste.',
  'seat-not-yet': 'Aucune place n’est encore libre pour vous. Nous vous écrivons dès qu’il y en a une.',
  'meeting-begun': 'Ce rendez-vous a déjà commencé et ne peut plus être modifié.',
  'move-never': 'Ce rendez-vous ne peut pas être déplacé ici. Écrivez à votre hôte.',
  'cancel-never': 'Ce rendez-vous ne peut pas être annulé ici. Écrivez à votre hôte.',
  'move-until-start': 'Il pouvait être déplacé jusqu’à son début. Écrivez à votre hôte.',
  'move-until-days': 'Il pouvait être déplacé jusqu’à {} jours avant son début. Écrivez à votre hôte.',
  'move-until-hour': 'Il pouvait être déplacé jusqu’à 1 heure avant son début. Écrivez à votre hôte.',
  'move-until-hours': 'Il pouvait être déplacé jusqu’à {} heures avant son début. Écrivez à votre hôte.',
  'move-until-minute': 'Il pouvait être déplacé jusqu’à 1 minute avant son début. Écrivez à votre hôte.',
  'move-until-minutes': 'Il pouvait être déplacé jusqu’à {} minutes avant son début. Écrivez à votre hôte.',
  'cancel-until-start': 'Il pouvait être annulé jusqu’à son début. Écrivez à votre hôte.',
  'cancel-until-days': 'Il pouvait être annulé jusqu’à {} jours avant son début. Écrivez à votre hôte.',
  'cancel-until-hour': 'Il pouvait être annulé jusqu’à 1 heure avant son début. Écrivez à votre hôte.',
  'cancel-until-hours': 'Il pouvait être annulé jusqu’à {} heures avant son début. Écrivez à votre hôte.',
  'cancel-until-minute': 'Il pouvait être annulé jusqu’à 1 minute avant son début. Écrivez à votre hôte.',
  'cancel-until-minutes': 'Il pouvait être annulé jusqu’à {} minutes avant son début. Écrivez à votre hôte.',
  'correct-late': 'Vos réponses ne peuvent plus être corrigées ici. Écrivez à votre hôte.',
  'confirm-early': 'Vous pouvez confirmer à partir de 48 heures avant le début.',
  'texts-landline': 'C’est un numéro fixe, qui ne reçoit pas de SMS. Indiquez un numéro de portable.',
  'texts-not-there': 'Aucun SMS n’est envoyé dans ce pays. Indiquez un autre numéro.',
  'texts-unagreed': 'Cochez que vous acceptez les SMS, ou retirez le numéro.',
  'texts-stopped': 'Ce numéro ne veut plus de nos SMS. Répondez START à l’un d’eux, ou indiquez un autre numéro.',
  'code-phone-missing': 'Indiquez votre numéro de portable : un code y arrive.',
  'code-phone-busy':
    'Beaucoup de codes ont été envoyés à ce numéro aujourd’hui. Indiquez un autre numéro, ou écrivez à {}.',
  'texts-none': 'Aucun SMS n’est envoyé au sujet de ce rendez-vous.',
  'rating-missing': 'Choisissez un nombre de 1 à 5.',
  'rated-already': 'Vous avez déjà dit comment c’était. Merci.',
  'rating-over': 'On ne peut pas, ou plus, dire ici comment était ce rendez-vous. Écrivez-nous plutôt.',
  'proposal-unknown': 'Cet horaire n’est plus proposé. Choisissez-en un autre.',
  'offer-unknown': 'Ce lien ne mène pas, ou plus, à une offre. Prenez celui de votre dernier mail à ce sujet.',
  'offer-taken': 'L’un de ces horaires est déjà pris. Le lien dans le mail de cette réservation y mène.',
  'offer-withdrawn': 'Cette offre a été retirée. Écrivez à {} pour d’autres horaires.',
  'offer-expired': 'Cette offre a expiré. Écrivez à {} pour d’autres horaires.',
  'file-unasked': 'Aucun fichier n’est demandé ici. Rechargez la page.',
  'files-busy':
    'Trop de fichiers sont envoyés en ce moment. Rien n’est perdu : réessayez dans une heure, ou réservez sans le fichier.',
  'file-gone': 'Ce fichier n’est plus ici. Choisissez-le de nouveau.',
  'file-empty': 'Ce fichier est vide. Choisissez-en un autre.',
  'file-large': 'Un fichier fait ici au plus 4 Mo. Envoyez-en un plus petit, ou un lien.',
  'file-kind': 'Ce fichier ne peut pas être accepté : PDF, PNG, JPEG ou texte simple, et son nom doit le dire.',
  failed:
    'Quelque chose s’est mal passé, et rien n’a changé. Réessayez ; si cela persiste, dites-le à ceux qui gèrent ce site.',
  'too-long': 'C’est plus de texte qu’on ne peut en prendre. Raccourcissez-le et renvoyez.',
  'given-up': 'La demande a été abandonnée avant la fin. Renvoyez-la.',
  'page-unpublished': 'Cette page n’est pas encore publiée. Demandez à {} quand elle le sera.',
  'client-full':
    'Avec une même adresse mail, on peut réserver d’avance {} de ces rendez-vous au plus. Déplacez ou annulez plutôt l’un des vôtres. S’il vous en faut davantage, écrivez à {}.',
  'client-busy':
    'Avec cette adresse mail, beaucoup de rendez-vous ont été pris en une heure. Rien de ce que vous avez saisi n’est perdu : réessayez plus tard. S’il vous en faut davantage, écrivez à {}.',
  'guest-busy': '{} a déjà été invité de nombreuses fois aujourd’hui. Retirez cet invité, ou prévenez-le vous-même.',
  'type-busy':
    'Un très grand nombre de ces rendez-vous ont été pris aujourd’hui ; on n’en accepte plus pour le moment. Rien de ce que vous avez saisi n’est perdu : réessayez demain. S’il vous en faut davantage, écrivez à {}.',
  'codes-sent':
    'Trois codes ont déjà été envoyés pour cette réservation. Regardez aussi dans les indésirables, ou retirez la demande et réservez de nouveau.',
  'files-spent':
    'Vous avez envoyé trop de fichiers sans réserver. Rien n’est perdu : réservez avec ceux qui sont là, ou réessayez demain.',
}
