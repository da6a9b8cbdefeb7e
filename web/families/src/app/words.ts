/** What the page itself says. */
export interface PageWords {
  readonly from: (school: string) => string;
  readonly language: string;
  readonly page: (n: number, of: number) => string;
  readonly required: string;
  readonly next: string;
  readonly back: string;
  readonly send: string;
  readonly sending: string;
  readonly goesTo: (school: string) => string;
  readonly look: (n: number) => string;
  readonly kept: string;
  readonly anew: string;
  readonly thanks: string;
  readonly arrived: (when: string) => string;
  readonly changeLink: string;
  readonly copy: string;
  readonly paper: string;
  readonly paperWaits: string;
  readonly paperLook: string;
  readonly paperLink: string;
  readonly another: string;
  readonly other: string;
  readonly otherWords: string;
  readonly choose: string;
  readonly given: string;
  readonly family: string;
  readonly agree: string;
  readonly addFile: string;
  readonly takeOut: (name: string) => string;
  readonly bringing: (name: string) => string;
  readonly sign: string;
  readonly signTyped: string;
  readonly clear: string;
  readonly time: string;
  readonly notYet: (when: string) => string;
  readonly over: string;
  readonly full: string;
  readonly closed: string;
  readonly unknown: string;
  readonly answered: string;
  readonly staff: string;
  readonly about: (name: string) => string;
  readonly code: string;
  readonly codeAsk: string;
  readonly codeWrong: string;
  readonly changeSame: string;
  readonly offline: string;
  readonly trouble: string;
  readonly changed: string;
  readonly early: string;
  readonly large: string;
  readonly kind: string;
  readonly preview: string;
}

const WORDS: Readonly<Record<string, PageWords>> = {
  en: {
    from: (school) => `A form of ${school}`,
    language: 'Language',
    page: (n, of) => `Page ${n} of ${of}`,
    required: 'needed',
    next: 'Go on',
    back: 'Back',
    send: 'Send the answers',
    sending: 'Sending …',
    goesTo: (school) => `Your answers go to ${school} when you send them. Nobody else gets them.`,
    look: (n) => (n === 1 ? 'One answer needs another look.' : `${n} answers need another look.`),
    kept: 'What you have written so far is kept in this browser until you send it.',
    anew: 'Clear all and begin anew',
    thanks: 'Thank you. Your answers have arrived.',
    arrived: (when) => `Received ${when}`,
    changeLink: 'With this link you can change your answers. Keep it to yourself.',
    copy: 'A copy of your answers comes to you by mail.',
    paper: 'Your paper',
    paperWaits:
      'Your paper is not ready yet. This page looks for it by itself; with its link you can come back later.',
    paperLook: 'Look again',
    paperLink: 'The link to your paper. Keep it to yourself.',
    another: 'Answer once more',
    other: 'Something else',
    otherWords: 'What is it?',
    choose: 'Choose …',
    given: 'First name',
    family: 'Surname',
    agree: 'Yes',
    addFile: 'Add a file',
    takeOut: (name) => `Take out ${name}`,
    bringing: (name) => `Adding ${name} …`,
    sign: 'Sign here with a finger, a pen or the mouse',
    signTyped: 'Or write your name with the keyboard',
    clear: 'Clear',
    time: 'Time',
    notYet: (when) => `This form opens on ${when}.`,
    over: 'This form has closed. Ask the school if you still want to answer.',
    full: 'This form has as many answers as it takes. Ask the school if you still want to answer.',
    closed: 'The school has closed this form. Ask there if you still want to answer.',
    unknown: 'This link leads nowhere. Look whether the whole of it was taken over.',
    answered: 'This form has been answered already. Ask the school if something has to be changed.',
    staff: 'This form is for staff of the school. Sign in with this browser first, then open it again.',
    about: (name) => `For ${name}`,
    code: 'Code',
    codeAsk:
      'This form is answered for one learner at a time. Write the code that the school gave you, or open the link that it sent you.',
    codeWrong: 'No form has this code. Look at it once more: ten letters and digits.',
    changeSame: 'With the same link you can change your answers.',
    offline:
      'There is no connection just now. Your answers are kept in this browser; send them again in a moment.',
    trouble: 'That did not work. Your answers are kept in this browser; send them again in a moment.',
    changed:
      'The school has changed this form meanwhile. Your answers are kept. Look at what is new, then send them.',
    early: 'That was quick. Send it again in a moment.',
    large: 'This file is too large.',
    kind: 'A file of this kind cannot be taken.',
    preview: 'This is how it looks. Nothing is sent from here.',
  },
  de: {
    from: (school) => `Ein Formular von ${school}`,
    language: 'Sprache',
    page: (n, of) => `Seite ${n} von ${of}`,
    required: 'nötig',
    next: 'Weiter',
    back: 'Zurück',
    send: 'Antworten senden',
    sending: 'Wird gesendet …',
    goesTo: (school) => `Ihre Antworten gehen beim Senden an ${school}. Sonst bekommt sie niemand.`,
    look: (n) =>
      n === 1
        ? 'Bitte sehen Sie sich eine Antwort noch einmal an.'
        : `Bitte sehen Sie sich ${n} Antworten noch einmal an.`,
    kept: 'Was Sie bisher geschrieben haben, bleibt in diesem Browser, bis Sie es senden.',
    anew: 'Alles löschen und neu beginnen',
    thanks: 'Vielen Dank. Ihre Antworten sind angekommen.',
    arrived: (when) => `Eingegangen am ${when}`,
    changeLink: 'Mit diesem Link können Sie Ihre Antworten ändern. Behalten Sie ihn für sich.',
    copy: 'Eine Kopie Ihrer Antworten kommt per E-Mail zu Ihnen.',
    paper: 'Ihr Blatt',
    paperWaits:
      'Ihr Blatt ist noch nicht fertig. Diese Seite sieht von selbst danach; mit ihrem Link können Sie später wiederkommen.',
    paperLook: 'Noch einmal nachsehen',
    paperLink: 'Der Link zu Ihrem Blatt. Behalten Sie ihn für sich.',
    another: 'Noch einmal antworten',
    other: 'Etwas anderes',
    otherWords: 'Was ist es?',
    choose: 'Bitte wählen …',
    given: 'Vorname',
    family: 'Nachname',
    agree: 'Ja',
    addFile: 'Datei hinzufügen',
    takeOut: (name) => `${name} wieder herausnehmen`,
    bringing: (name) => `${name} wird hinzugefügt …`,
    sign: 'Unterschreiben Sie hier mit Finger, Stift oder Maus',
    signTyped: 'Oder schreiben Sie Ihren Namen mit der Tastatur',
    clear: 'Löschen',
    time: 'Uhrzeit',
    notYet: (when) => `Dieses Formular öffnet am ${when}.`,
    over: 'Dieses Formular ist geschlossen. Fragen Sie die Schule, wenn Sie noch antworten möchten.',
    full: 'Dieses Formular nimmt keine weiteren Antworten an. Fragen Sie die Schule, wenn Sie noch antworten möchten.',
    closed: 'Die Schule hat dieses Formular geschlossen. Fragen Sie dort, wenn Sie noch antworten möchten.',
    unknown: 'Dieser Link führt ins Leere. Prüfen Sie, ob er vollständig übernommen wurde.',
    answered: 'Dieses Formular wurde schon beantwortet. Fragen Sie die Schule, wenn etwas zu ändern ist.',
    staff:
      'Dieses Formular ist für Mitarbeitende der Schule. Melden Sie sich zuerst in diesem Browser an und öffnen Sie es dann noch einmal.',
    about: (name) => `Für ${name}`,
    code: 'Code',
    codeAsk:
      'Dieses Formular wird für jedes Kind einzeln beantwortet. Schreiben Sie den Code, den die Schule Ihnen gegeben hat, oder öffnen Sie den Link, den sie Ihnen geschickt hat.',
    codeWrong:
      'Zu diesem Code gibt es kein Formular. Sehen Sie noch einmal nach: zehn Buchstaben und Ziffern.',
    changeSame: 'Mit demselben Link können Sie Ihre Antworten ändern.',
    offline:
      'Gerade besteht keine Verbindung. Ihre Antworten bleiben in diesem Browser; senden Sie sie gleich noch einmal.',
    trouble:
      'Das hat nicht geklappt. Ihre Antworten bleiben in diesem Browser; senden Sie sie gleich noch einmal.',
    changed:
      'Die Schule hat dieses Formular inzwischen geändert. Ihre Antworten sind erhalten. Sehen Sie nach, was neu ist, und senden Sie dann.',
    early: 'Das ging schnell. Senden Sie es gleich noch einmal.',
    large: 'Diese Datei ist zu groß.',
    kind: 'Eine Datei dieser Art kann nicht angenommen werden.',
    preview: 'So sieht es aus. Von hier wird nichts gesendet.',
  },
  fr: {
    from: (school) => `Un formulaire de ${school}`,
    language: 'Langue',
    page: (n, of) => `Page ${n} sur ${of}`,
    required: 'nécessaire',
    next: 'Continuer',
    back: 'Retour',
    send: 'Envoyer les réponses',
    sending: 'Envoi …',
    goesTo: (school) =>
      `Vos réponses vont à ${school} lorsque vous les envoyez. Personne d’autre ne les reçoit.`,
    look: (n) => (n === 1 ? 'Une réponse est à revoir.' : `${n} réponses sont à revoir.`),
    kept: 'Ce que vous avez écrit reste dans ce navigateur jusqu’à l’envoi.',
    anew: 'Tout effacer et recommencer',
    thanks: 'Merci. Vos réponses sont arrivées.',
    arrived: (when) => `Reçu le ${when}`,
    changeLink: 'Ce lien permet de modifier vos réponses. Gardez-le pour vous.',
    copy: 'Une copie de vos réponses vous parvient par e-mail.',
    paper: 'Votre document',
    paperWaits:
      'Votre document n’est pas encore prêt. Cette page le cherche d’elle-même ; son lien vous permet de revenir plus tard.',
    paperLook: 'Chercher de nouveau',
    paperLink: 'Le lien vers votre document. Gardez-le pour vous.',
    another: 'Répondre encore une fois',
    other: 'Autre chose',
    otherWords: 'Quoi ?',
    choose: 'Choisir …',
    given: 'Prénom',
    family: 'Nom',
    agree: 'Oui',
    addFile: 'Ajouter un fichier',
    takeOut: (name) => `Retirer ${name}`,
    bringing: (name) => `Ajout de ${name} …`,
    sign: 'Signez ici avec le doigt, un stylet ou la souris',
    signTyped: 'Ou écrivez votre nom au clavier',
    clear: 'Effacer',
    time: 'Heure',
    notYet: (when) => `Ce formulaire ouvre le ${when}.`,
    over: 'Ce formulaire est clos. Adressez-vous à l’école si vous voulez encore répondre.',
    full: 'Ce formulaire n’accepte plus de réponses. Adressez-vous à l’école si vous voulez encore répondre.',
    closed: 'L’école a fermé ce formulaire. Adressez-vous à elle si vous voulez encore répondre.',
    unknown: 'Ce lien ne mène nulle part. Vérifiez qu’il a été repris en entier.',
    answered: 'Ce formulaire a déjà été rempli. Demandez à l’école s’il faut changer quelque chose.',
    staff:
      'Ce formulaire est réservé au personnel de l’école. Connectez-vous d’abord dans ce navigateur, puis ouvrez-le de nouveau.',
    about: (name) => `Pour ${name}`,
    code: 'Code',
    codeAsk:
      'Ce formulaire se remplit pour un élève à la fois. Écrivez le code que l’école vous a donné, ou ouvrez le lien qu’elle vous a envoyé.',
    codeWrong: 'Aucun formulaire n’a ce code. Regardez-le encore une fois : dix lettres et chiffres.',
    changeSame: 'Avec le même lien, vous pouvez modifier vos réponses.',
    offline:
      'Il n’y a pas de connexion. Vos réponses restent dans ce navigateur ; renvoyez-les dans un instant.',
    trouble:
      'Cela n’a pas fonctionné. Vos réponses restent dans ce navigateur ; renvoyez-les dans un instant.',
    changed:
      'L’école a modifié ce formulaire entre-temps. Vos réponses sont conservées. Regardez ce qui est nouveau, puis envoyez.',
    early: 'C’était rapide. Renvoyez dans un instant.',
    large: 'Ce fichier est trop grand.',
    kind: 'Un fichier de ce type ne peut pas être accepté.',
    preview: 'Voici l’aspect. Rien n’est envoyé d’ici.',
  },
  es: {
    from: (school) => `Un formulario de ${school}`,
    language: 'Idioma',
    page: (n, of) => `Página ${n} de ${of}`,
    required: 'necesario',
    next: 'Seguir',
    back: 'Atrás',
    send: 'Enviar las respuestas',
    sending: 'Enviando …',
    goesTo: (school) => `Sus respuestas van a ${school} cuando las envía. Nadie más las recibe.`,
    look: (n) => (n === 1 ? 'Revise una respuesta.' : `Revise ${n} respuestas.`),
    kept: 'Lo que ha escrito se guarda en este navegador hasta que lo envíe.',
    anew: 'Borrar todo y empezar de nuevo',
    thanks: 'Gracias. Sus respuestas han llegado.',
    arrived: (when) => `Recibido el ${when}`,
    changeLink: 'Con este enlace puede cambiar sus respuestas. No lo comparta.',
    copy: 'Recibirá una copia de sus respuestas por correo electrónico.',
    paper: 'Su documento',
    paperWaits:
      'Su documento aún no está listo. Esta página lo busca por sí sola; con su enlace puede volver más tarde.',
    paperLook: 'Buscar de nuevo',
    paperLink: 'El enlace a su documento. No lo comparta.',
    another: 'Responder otra vez',
    other: 'Otra cosa',
    otherWords: '¿Qué es?',
    choose: 'Elegir …',
    given: 'Nombre',
    family: 'Apellidos',
    agree: 'Sí',
    addFile: 'Añadir un archivo',
    takeOut: (name) => `Quitar ${name}`,
    bringing: (name) => `Añadiendo ${name} …`,
    sign: 'Firme aquí con el dedo, un lápiz o el ratón',
    signTyped: 'O escriba su nombre con el teclado',
    clear: 'Borrar',
    time: 'Hora',
    notYet: (when) => `Este formulario se abre el ${when}.`,
    over: 'Este formulario se ha cerrado. Pregunte en la escuela si aún quiere responder.',
    full: 'Este formulario ya no admite más respuestas. Pregunte en la escuela si aún quiere responder.',
    closed: 'La escuela ha cerrado este formulario. Pregunte allí si aún quiere responder.',
    unknown: 'Este enlace no lleva a ninguna parte. Compruebe que se copió entero.',
    answered: 'Este formulario ya se ha contestado. Pregunte al centro si hay que cambiar algo.',
    staff:
      'Este formulario es para el personal del centro. Inicie sesión primero en este navegador y ábralo de nuevo.',
    about: (name) => `Para ${name}`,
    code: 'Código',
    codeAsk:
      'Este formulario se contesta para cada alumno por separado. Escriba el código que le dio el centro, o abra el enlace que le envió.',
    codeWrong: 'Ningún formulario tiene este código. Mírelo otra vez: diez letras y cifras.',
    changeSame: 'Con el mismo enlace puede cambiar sus respuestas.',
    offline:
      'Ahora no hay conexión. Sus respuestas se guardan en este navegador; envíelas de nuevo en un momento.',
    trouble:
      'No ha funcionado. Sus respuestas se guardan en este navegador; envíelas de nuevo en un momento.',
    changed: 'La escuela ha cambiado este formulario. Sus respuestas se conservan. Mire lo nuevo y envíelas.',
    early: 'Ha sido muy rápido. Envíelo de nuevo en un momento.',
    large: 'Este archivo es demasiado grande.',
    kind: 'No se puede aceptar un archivo de este tipo.',
    preview: 'Así se ve. Desde aquí no se envía nada.',
  },
  it: {
    from: (school) => `Un modulo di ${school}`,
    language: 'Lingua',
    page: (n, of) => `Pagina ${n} di ${of}`,
    required: 'necessario',
    next: 'Avanti',
    back: 'Indietro',
    send: 'Invia le risposte',
    sending: 'Invio …',
    goesTo: (school) => `Le risposte vanno a ${school} quando le invia. Nessun altro le riceve.`,
    look: (n) => (n === 1 ? 'Riveda una risposta.' : `Riveda ${n} risposte.`),
    kept: 'Ciò che ha scritto resta in questo browser finché non lo invia.',
    anew: 'Cancella tutto e ricomincia',
    thanks: 'Grazie. Le risposte sono arrivate.',
    arrived: (when) => `Ricevuto il ${when}`,
    changeLink: 'Con questo link può cambiare le risposte. Lo tenga per sé.',
    copy: 'Una copia delle Sue risposte Le arriva per e-mail.',
    paper: 'Il Suo documento',
    paperWaits:
      'Il Suo documento non è ancora pronto. Questa pagina lo cerca da sola; con il suo link può tornare più tardi.',
    paperLook: 'Cercare di nuovo',
    paperLink: 'Il link al Suo documento. Lo tenga per sé.',
    another: 'Rispondi ancora',
    other: 'Altro',
    otherWords: 'Che cosa?',
    choose: 'Scelga …',
    given: 'Nome',
    family: 'Cognome',
    agree: 'Sì',
    addFile: 'Aggiungi un file',
    takeOut: (name) => `Togli ${name}`,
    bringing: (name) => `Aggiunta di ${name} …`,
    sign: 'Firmi qui con il dito, la penna o il mouse',
    signTyped: 'Oppure scriva il nome con la tastiera',
    clear: 'Cancella',
    time: 'Ora',
    notYet: (when) => `Questo modulo apre il ${when}.`,
    over: 'Questo modulo è chiuso. Chieda alla scuola se vuole ancora rispondere.',
    full: 'Questo modulo non accetta altre risposte. Chieda alla scuola se vuole ancora rispondere.',
    closed: 'La scuola ha chiuso questo modulo. Chieda lì se vuole ancora rispondere.',
    unknown: 'Questo link non porta da nessuna parte. Controlli che sia stato copiato per intero.',
    answered: 'Questo modulo è già stato compilato. Chieda alla scuola se c’è qualcosa da cambiare.',
    staff:
      'Questo modulo è per il personale della scuola. Acceda prima con questo browser, poi lo apra di nuovo.',
    about: (name) => `Per ${name}`,
    code: 'Codice',
    codeAsk:
      'Questo modulo si compila per un alunno alla volta. Scriva il codice che la scuola le ha dato, oppure apra il link che le ha mandato.',
    codeWrong: 'Nessun modulo ha questo codice. Lo guardi ancora una volta: dieci lettere e cifre.',
    changeSame: 'Con lo stesso link può cambiare le risposte.',
    offline:
      'Ora non c’è connessione. Le risposte restano in questo browser; le invii di nuovo tra un momento.',
    trouble: 'Non ha funzionato. Le risposte restano in questo browser; le invii di nuovo tra un momento.',
    changed:
      'La scuola ha cambiato questo modulo. Le risposte sono conservate. Guardi che cosa c’è di nuovo, poi invii.',
    early: 'È stato veloce. Invii di nuovo tra un momento.',
    large: 'Questo file è troppo grande.',
    kind: 'Un file di questo tipo non può essere accettato.',
    preview: 'Ecco come appare. Da qui non si invia nulla.',
  },
  nl: {
    from: (school) => `Een formulier van ${school}`,
    language: 'Taal',
    page: (n, of) => `Pagina ${n} van ${of}`,
    required: 'nodig',
    next: 'Verder',
    back: 'Terug',
    send: 'Antwoorden versturen',
    sending: 'Wordt verstuurd …',
    goesTo: (school) => `Uw antwoorden gaan bij het versturen naar ${school}. Niemand anders krijgt ze.`,
    look: (n) => (n === 1 ? 'Bekijk één antwoord nog eens.' : `Bekijk ${n} antwoorden nog eens.`),
    kept: 'Wat u hebt geschreven blijft in deze browser tot u het verstuurt.',
    anew: 'Alles wissen en opnieuw beginnen',
    thanks: 'Dank u wel. Uw antwoorden zijn aangekomen.',
    arrived: (when) => `Ontvangen op ${when}`,
    changeLink: 'Met deze link kunt u uw antwoorden wijzigen. Houd hem voor uzelf.',
    copy: 'Een kopie van uw antwoorden komt per e-mail naar u toe.',
    paper: 'Uw document',
    paperWaits:
      'Uw document is nog niet klaar. Deze pagina zoekt er vanzelf naar; met de link kunt u later terugkomen.',
    paperLook: 'Opnieuw kijken',
    paperLink: 'De link naar uw document. Houd hem voor uzelf.',
    another: 'Nog eens antwoorden',
    other: 'Iets anders',
    otherWords: 'Wat is het?',
    choose: 'Kies …',
    given: 'Voornaam',
    family: 'Achternaam',
    agree: 'Ja',
    addFile: 'Bestand toevoegen',
    takeOut: (name) => `${name} eruit halen`,
    bringing: (name) => `${name} wordt toegevoegd …`,
    sign: 'Teken hier met vinger, pen of muis',
    signTyped: 'Of schrijf uw naam met het toetsenbord',
    clear: 'Wissen',
    time: 'Tijd',
    notYet: (when) => `Dit formulier gaat open op ${when}.`,
    over: 'Dit formulier is gesloten. Vraag de school als u nog wilt antwoorden.',
    full: 'Dit formulier neemt geen antwoorden meer aan. Vraag de school als u nog wilt antwoorden.',
    closed: 'De school heeft dit formulier gesloten. Vraag daar als u nog wilt antwoorden.',
    unknown: 'Deze link leidt nergens heen. Kijk of hij helemaal is overgenomen.',
    answered: 'Dit formulier is al ingevuld. Vraag het aan de school als er iets moet veranderen.',
    staff:
      'Dit formulier is voor medewerkers van de school. Meld u eerst aan in deze browser en open het dan opnieuw.',
    about: (name) => `Voor ${name}`,
    code: 'Code',
    codeAsk:
      'Dit formulier wordt per leerling ingevuld. Schrijf de code die u van de school kreeg, of open de link die zij u stuurde.',
    codeWrong: 'Er is geen formulier met deze code. Kijk nog eens: tien letters en cijfers.',
    changeSame: 'Met dezelfde link kunt u uw antwoorden wijzigen.',
    offline: 'Er is nu geen verbinding. Uw antwoorden blijven in deze browser; verstuur ze zo nog eens.',
    trouble: 'Dat lukte niet. Uw antwoorden blijven in deze browser; verstuur ze zo nog eens.',
    changed:
      'De school heeft dit formulier intussen gewijzigd. Uw antwoorden zijn bewaard. Kijk wat nieuw is en verstuur ze dan.',
    early: 'Dat ging snel. Verstuur het zo nog eens.',
    large: 'Dit bestand is te groot.',
    kind: 'Een bestand van dit soort kan niet worden aangenomen.',
    preview: 'Zo ziet het eruit. Van hier wordt niets verstuurd.',
  },
  pl: {
    from: (school) => `Formularz szkoły ${school}`,
    language: 'Język',
    page: (n, of) => `Strona ${n} z ${of}`,
    required: 'wymagane',
    next: 'Dalej',
    back: 'Wstecz',
    send: 'Wyślij odpowiedzi',
    sending: 'Wysyłanie …',
    goesTo: (school) => `Po wysłaniu odpowiedzi trafią do: ${school}. Nikt inny ich nie otrzyma.`,
    look: (n) => (n === 1 ? 'Jedna odpowiedź wymaga sprawdzenia.' : `Odpowiedzi do sprawdzenia: ${n}.`),
    kept: 'To, co zostało wpisane, pozostaje w tej przeglądarce aż do wysłania.',
    anew: 'Wyczyść wszystko i zacznij od nowa',
    thanks: 'Dziękujemy. Odpowiedzi dotarły.',
    arrived: (when) => `Otrzymano ${when}`,
    changeLink: 'Ten link pozwala zmienić odpowiedzi. Proszę go nie udostępniać.',
    copy: 'Kopia odpowiedzi przyjdzie pocztą elektroniczną.',
    paper: 'Dokument',
    paperWaits:
      'Dokument nie jest jeszcze gotowy. Ta strona sama go szuka; dzięki jej linkowi można wrócić później.',
    paperLook: 'Sprawdź ponownie',
    paperLink: 'Link do dokumentu. Prosimy go nikomu nie przekazywać.',
    another: 'Odpowiedz jeszcze raz',
    other: 'Coś innego',
    otherWords: 'Co to jest?',
    choose: 'Proszę wybrać …',
    given: 'Imię',
    family: 'Nazwisko',
    agree: 'Tak',
    addFile: 'Dodaj plik',
    takeOut: (name) => `Usuń ${name}`,
    bringing: (name) => `Dodawanie ${name} …`,
    sign: 'Proszę podpisać się tutaj palcem, rysikiem lub myszą',
    signTyped: 'Lub wpisać imię i nazwisko z klawiatury',
    clear: 'Wyczyść',
    time: 'Godzina',
    notYet: (when) => `Ten formularz zostanie otwarty ${when}.`,
    over: 'Ten formularz jest zamknięty. W razie potrzeby proszę zapytać w szkole.',
    full: 'Ten formularz nie przyjmuje więcej odpowiedzi. W razie potrzeby proszę zapytać w szkole.',
    closed: 'Szkoła zamknęła ten formularz. W razie potrzeby proszę tam zapytać.',
    unknown: 'Ten link donikąd nie prowadzi. Proszę sprawdzić, czy został skopiowany w całości.',
    answered: 'Ten formularz został już wypełniony. Jeśli trzeba coś zmienić, proszę zapytać w szkole.',
    staff:
      'Ten formularz jest dla pracowników szkoły. Proszę najpierw zalogować się w tej przeglądarce, a potem otworzyć go jeszcze raz.',
    about: (name) => `Dla: ${name}`,
    code: 'Kod',
    codeAsk:
      'Ten formularz wypełnia się osobno dla każdego ucznia. Proszę wpisać kod otrzymany ze szkoły albo otworzyć link, który przysłała szkoła.',
    codeWrong: 'Nie ma formularza z tym kodem. Proszę spojrzeć jeszcze raz: dziesięć liter i cyfr.',
    changeSame: 'Tym samym linkiem można zmienić odpowiedzi.',
    offline: 'Teraz nie ma połączenia. Odpowiedzi pozostają w tej przeglądarce; proszę wysłać je za chwilę.',
    trouble: 'To się nie udało. Odpowiedzi pozostają w tej przeglądarce; proszę wysłać je za chwilę.',
    changed:
      'Szkoła zmieniła tymczasem ten formularz. Odpowiedzi zostały zachowane. Proszę sprawdzić, co jest nowe, i wysłać.',
    early: 'To było szybkie. Proszę wysłać za chwilę.',
    large: 'Ten plik jest za duży.',
    kind: 'Pliku tego rodzaju nie można przyjąć.',
    preview: 'Tak to wygląda. Stąd nic nie jest wysyłane.',
  },
  pt: {
    from: (school) => `Um formulário de ${school}`,
    language: 'Língua',
    page: (n, of) => `Página ${n} de ${of}`,
    required: 'necessário',
    next: 'Continuar',
    back: 'Voltar',
    send: 'Enviar as respostas',
    sending: 'A enviar …',
    goesTo: (school) => `As suas respostas vão para ${school} quando as envia. Mais ninguém as recebe.`,
    look: (n) => (n === 1 ? 'Reveja uma resposta.' : `Reveja ${n} respostas.`),
    kept: 'O que escreveu fica neste navegador até o enviar.',
    anew: 'Apagar tudo e recomeçar',
    thanks: 'Obrigado. As suas respostas chegaram.',
    arrived: (when) => `Recebido em ${when}`,
    changeLink: 'Com esta ligação pode mudar as suas respostas. Guarde-a para si.',
    copy: 'Uma cópia das suas respostas chega por correio eletrónico.',
    paper: 'O seu documento',
    paperWaits:
      'O seu documento ainda não está pronto. Esta página procura-o sozinha; com a sua ligação pode voltar mais tarde.',
    paperLook: 'Procurar de novo',
    paperLink: 'A ligação para o seu documento. Guarde-a para si.',
    another: 'Responder outra vez',
    other: 'Outra coisa',
    otherWords: 'O que é?',
    choose: 'Escolher …',
    given: 'Nome próprio',
    family: 'Apelido',
    agree: 'Sim',
    addFile: 'Acrescentar um ficheiro',
    takeOut: (name) => `Retirar ${name}`,
    bringing: (name) => `A acrescentar ${name} …`,
    sign: 'Assine aqui com o dedo, a caneta ou o rato',
    signTyped: 'Ou escreva o seu nome com o teclado',
    clear: 'Apagar',
    time: 'Hora',
    notYet: (when) => `Este formulário abre em ${when}.`,
    over: 'Este formulário fechou. Pergunte na escola se ainda quer responder.',
    full: 'Este formulário já não aceita respostas. Pergunte na escola se ainda quer responder.',
    closed: 'A escola fechou este formulário. Pergunte lá se ainda quer responder.',
    unknown: 'Esta ligação não leva a lado nenhum. Veja se foi copiada inteira.',
    answered: 'Este formulário já foi respondido. Pergunte à escola se é preciso mudar alguma coisa.',
    staff:
      'Este formulário é para o pessoal da escola. Inicie sessão primeiro neste navegador e abra-o de novo.',
    about: (name) => `Para ${name}`,
    code: 'Código',
    codeAsk:
      'Este formulário responde-se para um aluno de cada vez. Escreva o código que a escola lhe deu, ou abra a ligação que lhe enviou.',
    codeWrong: 'Nenhum formulário tem este código. Veja-o mais uma vez: dez letras e algarismos.',
    changeSame: 'Com a mesma ligação pode alterar as suas respostas.',
    offline: 'Agora não há ligação. As suas respostas ficam neste navegador; envie-as de novo daqui a pouco.',
    trouble: 'Não funcionou. As suas respostas ficam neste navegador; envie-as de novo daqui a pouco.',
    changed:
      'A escola mudou entretanto este formulário. As suas respostas foram guardadas. Veja o que é novo e envie-as.',
    early: 'Foi rápido. Envie de novo daqui a pouco.',
    large: 'Este ficheiro é demasiado grande.',
    kind: 'Um ficheiro deste tipo não pode ser aceite.',
    preview: 'É este o aspeto. Daqui nada é enviado.',
  },
};

/** The page's own words in a language; in English where there are none in it. */
export const pageWords = (language: string): PageWords => WORDS[language.split('-')[0]!] ?? WORDS['en']!;

/** Scripts that run from right to left (Unicode Bidirectional Algorithm), by the languages that are written in them. */
export const directionOf = (language: string): 'rtl' | 'ltr' =>
  /^(ar|fa|he|ur|ps|sd|ug|yi|dv|ckb)\b/.test(language) ? 'rtl' : 'ltr';
