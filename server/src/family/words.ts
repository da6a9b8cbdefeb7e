/** What a family's page says. */
export interface PageWords {
  readonly dir?: 'rtl';
  readonly papers: string;
  readonly from: (school: string) => string;
  readonly ask: string;
  readonly show: string;
  readonly wrong: (left: number) => string;
  readonly until: (day: string) => string;
  readonly ended: string;
  readonly withdrawn: string;
  readonly closed: string;
  readonly unknown: string;
  readonly gone: string;
  readonly keep: string;
  readonly trial: string;
}

/** In the languages that the page is written in; English for all others. */
const WORDS: Readonly<Record<string, PageWords>> = {
  en: {
    papers: 'Your papers',
    from: (school) => `From ${school}`,
    ask: 'So that nobody else sees them, please answer first.',
    show: 'Show the papers',
    wrong: (left) => `That is not the answer. You can try ${left === 1 ? 'once' : `${left} times`} more.`,
    until: (day) => `This page can be opened until ${day}. Keep a copy of what you need.`,
    ended: 'This link has ended. Ask the school if you still need the papers.',
    withdrawn: 'The school has withdrawn this link. Ask there if you need the papers.',
    closed: 'There were too many wrong answers. Ask the school to open the link again.',
    unknown: 'This link leads nowhere. Look whether the whole of it was taken over from the message.',
    gone: 'This paper has been replaced or withdrawn by the school.',
    keep: 'The link was sent to you alone. Whoever has it can open this page.',
    trial: 'This is a try. In a message to a family, the link leads to its papers.',
  },
  de: {
    papers: 'Ihre Unterlagen',
    from: (school) => `Von ${school}`,
    ask: 'Damit niemand anderes sie sieht, antworten Sie bitte zuerst.',
    show: 'Unterlagen anzeigen',
    wrong: (left) =>
      `Das ist nicht die richtige Antwort. Sie können es noch ${left === 1 ? 'einmal' : `${left}-mal`} versuchen.`,
    until: (day) => `Diese Seite lässt sich bis ${day} öffnen. Speichern Sie, was Sie brauchen.`,
    ended: 'Dieser Link gilt nicht mehr. Fragen Sie die Schule, wenn Sie die Unterlagen noch brauchen.',
    withdrawn:
      'Die Schule hat diesen Link zurückgezogen. Fragen Sie dort nach, wenn Sie die Unterlagen brauchen.',
    closed: 'Es gab zu viele falsche Antworten. Bitten Sie die Schule, den Link wieder zu öffnen.',
    unknown: 'Dieser Link führt ins Leere. Prüfen Sie, ob er vollständig aus der Nachricht übernommen wurde.',
    gone: 'Dieses Blatt hat die Schule ersetzt oder zurückgezogen.',
    keep: 'Der Link wurde nur Ihnen geschickt. Wer ihn hat, kann diese Seite öffnen.',
    trial: 'Dies ist eine Probe. In einer Nachricht an eine Familie führt der Link zu ihren Unterlagen.',
  },
  fr: {
    papers: 'Vos documents',
    from: (school) => `De la part de ${school}`,
    ask: 'Pour que personne d’autre ne les voie, veuillez d’abord répondre.',
    show: 'Afficher les documents',
    wrong: (left) => `Ce n’est pas la bonne réponse. Il vous reste ${left} essai${left === 1 ? '' : 's'}.`,
    until: (day) => `Cette page reste accessible jusqu’au ${day}. Gardez une copie de ce qu’il vous faut.`,
    ended: 'Ce lien a expiré. Adressez-vous à l’école si vous avez encore besoin des documents.',
    withdrawn: 'L’école a retiré ce lien. Adressez-vous à elle si vous avez besoin des documents.',
    closed: 'Il y a eu trop de mauvaises réponses. Demandez à l’école de rouvrir le lien.',
    unknown: 'Ce lien ne mène nulle part. Vérifiez qu’il a été repris en entier du message.',
    gone: 'L’école a remplacé ou retiré ce document.',
    keep: 'Ce lien n’a été envoyé qu’à vous. Quiconque le possède peut ouvrir cette page.',
    trial: 'Ceci est un essai. Dans un message à une famille, le lien mène à ses documents.',
  },
  es: {
    papers: 'Sus documentos',
    from: (school) => `De ${school}`,
    ask: 'Para que nadie más los vea, responda primero.',
    show: 'Ver los documentos',
    wrong: (left) =>
      `Esa no es la respuesta. Puede intentarlo ${left === 1 ? 'una vez' : `${left} veces`} más.`,
    until: (day) => `Esta página se puede abrir hasta el ${day}. Guarde una copia de lo que necesite.`,
    ended: 'Este enlace ya no funciona. Pregunte en el centro si todavía necesita los documentos.',
    withdrawn: 'El centro ha retirado este enlace. Pregunte allí si necesita los documentos.',
    closed: 'Hubo demasiadas respuestas incorrectas. Pida al centro que vuelva a abrir el enlace.',
    unknown: 'Este enlace no lleva a ninguna parte. Compruebe que se copió entero del mensaje.',
    gone: 'El centro ha sustituido o retirado este documento.',
    keep: 'El enlace se envió solo a usted. Quien lo tenga puede abrir esta página.',
    trial: 'Esto es una prueba. En un mensaje a una familia, el enlace lleva a sus documentos.',
  },
  it: {
    papers: 'I Suoi documenti',
    from: (school) => `Da ${school}`,
    ask: 'Perché nessun altro li veda, risponda prima alla domanda.',
    show: 'Mostra i documenti',
    wrong: (left) =>
      `Non è la risposta giusta. Può provare ancora ${left === 1 ? 'una volta' : `${left} volte`}.`,
    until: (day) => `Questa pagina si può aprire fino al ${day}. Conservi una copia di ciò che Le serve.`,
    ended: 'Questo link non è più valido. Chieda alla scuola se Le servono ancora i documenti.',
    withdrawn: 'La scuola ha ritirato questo link. Chieda alla scuola se Le servono i documenti.',
    closed: 'Ci sono state troppe risposte errate. Chieda alla scuola di riaprire il link.',
    unknown:
      'Questo link non porta da nessuna parte. Controlli che sia stato copiato per intero dal messaggio.',
    gone: 'La scuola ha sostituito o ritirato questo documento.',
    keep: 'Il link è stato inviato solo a Lei. Chi lo possiede può aprire questa pagina.',
    trial: 'Questa è una prova. In un messaggio a una famiglia il link porta ai suoi documenti.',
  },
  nl: {
    papers: 'Uw documenten',
    from: (school) => `Van ${school}`,
    ask: 'Geef eerst antwoord, zodat niemand anders ze ziet.',
    show: 'Documenten tonen',
    wrong: (left) => `Dat is niet het juiste antwoord. U kunt het nog ${left} keer proberen.`,
    until: (day) => `Deze pagina is te openen tot en met ${day}. Bewaar een kopie van wat u nodig hebt.`,
    ended: 'Deze link werkt niet meer. Vraag de school als u de documenten nog nodig hebt.',
    withdrawn: 'De school heeft deze link ingetrokken. Vraag het daar als u de documenten nodig hebt.',
    closed: 'Er waren te veel verkeerde antwoorden. Vraag de school om de link weer te openen.',
    unknown: 'Deze link leidt nergens heen. Kijk of hij volledig uit het bericht is overgenomen.',
    gone: 'De school heeft dit document vervangen of ingetrokken.',
    keep: 'De link is alleen naar u gestuurd. Wie hem heeft, kan deze pagina openen.',
    trial: 'Dit is een proef. In een bericht aan een gezin leidt de link naar zijn documenten.',
  },
  pl: {
    papers: 'Twoje dokumenty',
    from: (school) => `Od: ${school}`,
    ask: 'Aby nikt inny ich nie zobaczył, najpierw odpowiedz na pytanie.',
    show: 'Pokaż dokumenty',
    wrong: (left) => `To nie jest właściwa odpowiedź. Pozostałe próby: ${left}.`,
    until: (day) => `Stronę można otworzyć do ${day}. Zapisz to, czego potrzebujesz.`,
    ended: 'Ten link stracił ważność. Zapytaj w szkole, jeśli nadal potrzebujesz dokumentów.',
    withdrawn: 'Szkoła wycofała ten link. Zapytaj w szkole, jeśli potrzebujesz dokumentów.',
    closed: 'Było zbyt wiele błędnych odpowiedzi. Poproś szkołę o ponowne otwarcie linku.',
    unknown: 'Ten link donikąd nie prowadzi. Sprawdź, czy został skopiowany z wiadomości w całości.',
    gone: 'Szkoła zastąpiła lub wycofała ten dokument.',
    keep: 'Link wysłano tylko do Ciebie. Każdy, kto go ma, może otworzyć tę stronę.',
    trial: 'To jest próba. W wiadomości do rodziny link prowadzi do jej dokumentów.',
  },
  pt: {
    papers: 'Os seus documentos',
    from: (school) => `De ${school}`,
    ask: 'Para que mais ninguém os veja, responda primeiro.',
    show: 'Mostrar os documentos',
    wrong: (left) => `Essa não é a resposta. Pode tentar mais ${left === 1 ? 'uma vez' : `${left} vezes`}.`,
    until: (day) => `Esta página pode ser aberta até ${day}. Guarde uma cópia do que precisar.`,
    ended: 'Esta ligação já não funciona. Pergunte à escola se ainda precisar dos documentos.',
    withdrawn: 'A escola retirou esta ligação. Pergunte à escola se precisar dos documentos.',
    closed: 'Houve demasiadas respostas erradas. Peça à escola que volte a abrir a ligação.',
    unknown: 'Esta ligação não leva a lado nenhum. Veja se foi copiada por inteiro da mensagem.',
    gone: 'A escola substituiu ou retirou este documento.',
    keep: 'A ligação foi enviada só a si. Quem a tiver pode abrir esta página.',
    trial: 'Isto é um ensaio. Numa mensagem a uma família, a ligação leva aos seus documentos.',
  },
};

/** The words of a page, and the language that they are in. */
export function wordsIn(language: string): { readonly language: string; readonly words: PageWords } {
  const [code = 'en'] = language.split('-');
  const words = WORDS[code];
  return words ? { language, words } : { language: 'en-GB', words: WORDS['en']! };
}
