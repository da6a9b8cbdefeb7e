import {
  AddOrder,
  AnswerAsked,
  AnsweredAsked,
  OrderList,
  OrderNext,
  OrderRan,
  OrderWorkList,
  RunOrder,
  SaveOrder,
  SwitchOrder,
  WorkSought,
} from './orders.js';

/** Standing orders: what is pressed and sent without a person. */
export const ORDER_ENDPOINTS = {
  orders: {
    method: 'get',
    path: '/folios/{folioId}/orders',
    summary: 'The standing orders of a folio, with how each goes',
    answer: OrderList,
  },
  addOrder: {
    method: 'post',
    path: '/folios/{folioId}/orders',
    summary: 'Add a standing order; it is off until somebody switches it on',
    body: AddOrder,
    answer: OrderList,
  },
  saveOrder: {
    method: 'put',
    path: '/folios/{folioId}/orders/{orderId}',
    summary: 'Change an order that is off',
    body: SaveOrder,
    answer: OrderList,
  },
  switchOrder: {
    method: 'put',
    path: '/folios/{folioId}/orders/{orderId}/on',
    summary: 'Switch an order on or off',
    body: SwitchOrder,
    answer: OrderList,
  },
  deleteOrder: {
    method: 'delete',
    path: '/folios/{folioId}/orders/{orderId}',
    summary: 'Delete an order; what it did stays',
    answer: OrderList,
  },
  restoreOrder: {
    method: 'post',
    path: '/folios/{folioId}/orders/{orderId}/restore',
    summary: 'Have a deleted order back, switched off',
    answer: OrderList,
  },
  orderNext: {
    method: 'get',
    path: '/folios/{folioId}/orders/{orderId}/next',
    summary: 'Whom an order would take now, whom it would pass over, and why; changes nothing',
    answer: OrderNext,
  },
  runOrder: {
    method: 'post',
    path: '/folios/{folioId}/orders/{orderId}/run',
    summary: 'Let an order act now',
    body: RunOrder,
    answer: OrderRan,
  },
  orderWork: {
    method: 'get',
    path: '/folios/{folioId}/orders/{orderId}/work',
    summary: 'What an order did for whom, and what it waits with, the newest first',
    query: WorkSought,
    answer: OrderWorkList,
  },
  answerAsked: {
    method: 'post',
    path: '/folios/{folioId}/orders/{orderId}/answer',
    summary: 'Say yes or no to papers that an order waits with',
    body: AnswerAsked,
    answer: AnsweredAsked,
  },
} as const;
